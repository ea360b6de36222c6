import Button from "@mui/material/Button";
import Close from "@mui/icons-material/Close";
import IconButton from "@mui/material/IconButton";
import { useState } from "react";
import { Link } from "react-router";
import type { FieldPrecedence, Source } from "../../api/client";
import { usePrecedence, useSite } from "../../api/queries";
import { FieldInput } from "../fields/FieldInput";
import { useChoices } from "../fields/useChoices";
import { plain } from "../rules/RuleValues";
import type { Look } from "../../api/look";
import { tellSaved } from "../notices";
import { MoveValue } from "./MoveValue";
import { useCalled } from "../useCalled";
import { inherited, placeOf, sourceWords } from "./sources";

interface Props {
  page: string;
  address: string;
  title: string;
  look: Look;
  proposal: string;
  set: (keys: string[], value: unknown) => void;
  settled: boolean; // nothing is unsaved, so that a value can be moved to where others get it too
  close: () => void;
}

/** The values of a placement that the page's own text does not hold, which the page can
 *  have of its own at that address; and where each comes from. */
export function ValuesPanel({ page, address, title, look, proposal, set, settled, close }: Props) {
  const [moving, setMoving] = useState("");
  const site = useSite();
  const { data, error } = usePrecedence(page, address, look, proposal);
  const choices = useChoices();
  const called = useCalled();
  const [typed, setTyped] = useState<Record<string, string>>({});
  if (!data)
    return error ? (
      <section className="call-panel" aria-label={`Values of ${title}`}>
        <header>
          <b>{title}</b>
          <span className="soft">{error.message}</span>
          <IconButton size="small" aria-label="Close the values" onClick={close}>
            <Close fontSize="small" />
          </IconButton>
        </header>
      </section>
    ) : null;
  const put = (f: FieldPrecedence, value: string) => {
    setTyped((t) => ({ ...t, [f.field.name]: value }));
    set(["overrides", address, f.field.name], plain(f.field, value));
  };
  const back = (f: FieldPrecedence) => {
    setTyped((t) => Object.fromEntries(Object.entries(t).filter(([k]) => k !== f.field.name)));
    set(["overrides", address, f.field.name], null);
  };
  const moved = settled ? data.fields.find((f) => f.field.name === moving) : undefined;
  const moves = moved?.sources.find((r) => r.source === "override" && r.set);
  return (
    <section className="call-panel" aria-label={`Values of ${title}`}>
      <header>
        <b>{title}</b>{" "}
        <span className="soft">
          <code>{address}</code>
        </span>{" "}
        <Link to={placeOf(site, `blocks/${data.block}.html`, "")}>Open the block</Link>
        <IconButton size="small" aria-label="Close the values" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </header>
      {moves && moved ? (
        <MoveValue
          block={data.block}
          title={title}
          field={moved.field.name}
          label={moved.field.label}
          value={moves.text}
          via={data.via}
          close={() => setMoving("")}
          done={(t) => {
            setMoving("");
            setTyped({});
            tellSaved(t);
          }}
        />
      ) : (
        <div className="call-fields">
          {data.fields.map((f) => {
            const own = f.sources.find((r) => r.source === "override");
            const wins = f.sources[f.wins];
            const says = own && own.line > 0;
            const rest = inherited(f, called);
            const about = says
              ? `set here; otherwise ${rest.text || "nothing"}${rest.from && `, from ${rest.from}`}`
              : wins
                ? `from ${sourceWords(wins, called)}`
                : f.field.required
                  ? "required, and nothing says it"
                  : "nothing says it";
            return (
              <div key={f.field.name} className="call-field">
                <FieldInput
                  field={f.field}
                  value={typed[f.field.name] ?? wins?.text ?? ""}
                  change={(v) => put(f, v)}
                  choices={choices}
                  about={about}
                  wrong={own?.bad ?? ""}
                />
                <span className="precedence-acts">
                  {says && (
                    <Button
                      size="small"
                      onClick={() => back(f)}
                      aria-label={`Reset ${f.field.label}`}
                    >
                      Reset
                    </Button>
                  )}
                  {says && !own.bad && (
                    <Button
                      size="small"
                      disabled={!settled}
                      title={settled ? undefined : "Save first"}
                      aria-expanded={moving === f.field.name}
                      onClick={() => setMoving(moving ? "" : f.field.name)}
                      aria-label={`Use ${f.field.label} elsewhere`}
                    >
                      Use this value elsewhere
                    </Button>
                  )}
                  <details className="precedence">
                    <summary>Where it comes from</summary>
                    <ol>
                      {f.sources.map((r, i) => (
                        <SourceRow key={r.source} source={r} wins={i === f.wins} />
                      ))}
                    </ol>
                  </details>
                </span>
              </div>
            );
          })}
          {data.fields.length === 0 && <p className="soft">This block has no fields.</p>}
        </div>
      )}
    </section>
  );
}

function SourceRow({ source, wins }: { source: Source; wins: boolean }) {
  const site = useSite();
  const to = placeOf(site, source.doc, source.source);
  const words = sourceWords(source, useCalled());
  return (
    <li className={wins ? "wins" : ""} aria-current={wins || undefined}>
      {to ? <Link to={to}>{words}</Link> : words}:{" "}
      {source.bad ? (
        <span className="bad-text">{source.bad}</span>
      ) : source.set ? (
        <>
          <b>{source.text}</b> {source.unshown && <span className="soft">({source.unshown})</span>}
        </>
      ) : (
        <span className="soft">says nothing</span>
      )}
      {source.line > 0 && <span className="soft"> line {source.line}</span>}
      {wins && <span className="soft"> (shown)</span>}
    </li>
  );
}
