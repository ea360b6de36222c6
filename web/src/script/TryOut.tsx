import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import type { ChangeSet, Overview, ScriptResult } from "../api/client";
import { useTrial } from "../api/queries";
import { Live } from "../shared/rendering/Live";
import { FieldInput } from "../shared/fields/FieldInput";
import { useChoices } from "../shared/fields/useChoices";
import { NotShown } from "../shared/NotShown";
import { useTry } from "../shared/useEdit";
import { argumentsIn, enclosedIn } from "../shared/calls/sample";
import { PagePick } from "../shared/PagePick";

/** Runs a script as it stands in the editor: arguments in, result and time out. */
export function TryOut({
  name,
  text,
  changes,
  sample,
  overview,
}: {
  name: string;
  text: string;
  changes: ChangeSet["changes"];
  sample: string;
  overview: Overview;
}) {
  const [typed, setTyped] = useState<Record<string, string>>(() => argumentsIn(sample));
  const [inner, setInner] = useState(() => enclosedIn(sample));
  const [page, setPage] = useState(overview.home);
  const choices = useChoices();
  const light = useMemo(() => ({ block: name, scroll: true }), [name]);
  const { data, error } = useTrial({ name, text, arguments: typed, inner, page });
  const { url, problem } = useTry(
    data && data.problems.length === 0 ? data.call : "",
    overview,
    changes,
  );
  return (
    <section className="panel try-out" aria-label="Try it out">
      <div className="bar">
        <b>Try it out</b>
        {data?.reads.includes("page") && (
          <span className="right">
            on{" "}
            <PagePick
              label="Page that shows it"
              page={page}
              choose={setPage}
              pages={overview.pages}
            />
          </span>
        )}
      </div>
      {error && (
        <p className="trial bad-text" role="alert">
          {error.message}
        </p>
      )}
      {data && <Result result={data} />}
      <div className="scroll">
        <div className="call-fields">
          {data?.fields.map((f) => (
            <div key={f.name} className="call-field">
              <FieldInput
                field={f}
                value={typed[f.name] ?? ""}
                change={(v) => setTyped((t) => ({ ...t, [f.name]: v }))}
                choices={choices}
                about={
                  f.required ? "required" : f.default_text ? `otherwise ${f.default_text}` : ""
                }
              />
            </div>
          ))}
          {data?.encloses && (
            <div className="call-field">
              <TextField
                multiline
                minRows={1}
                label="What the call encloses"
                value={inner}
                onChange={(e) => setInner(e.target.value)}
              />
            </div>
          )}
          {data?.fields.length === 0 && !data.encloses && (
            <p className="soft">It has no parameters.</p>
          )}
        </div>
        {data && data.problems.length === 0 && (
          <pre tabIndex={0} aria-label="What it gives">
            {data.text}
          </pre>
        )}
      </div>
      {problem && data?.problems.length === 0 && (
        <NotShown what="What it gives" problem={problem} />
      )}
      {url && data?.problems.length === 0 && (
        <div className="trial-look">
          <Live url={url} width="tablet" title={`${name} as it looks`} light={light} />
        </div>
      )}
    </section>
  );
}

function Result({ result: r }: { result: ScriptResult }) {
  const problem = r.problems[0];
  return (
    <div className="trial" role="status">
      {problem ? (
        <p>
          <b className="bad-text">It gives nothing.</b>{" "}
          <code>
            {problem.path}:{problem.line}:{problem.column}
          </code>{" "}
          {problem.message}
        </p>
      ) : (
        <p>
          <b>It gives {r.html ? "HTML" : "text"}</b>, {r.text.length.toLocaleString("en")}{" "}
          characters, in {took(r.microseconds)}.
        </p>
      )}
    </div>
  );
}

function took(microseconds: number): string {
  return microseconds < 1000 ? `${microseconds} µs` : `${(microseconds / 1000).toFixed(1)} ms`;
}
