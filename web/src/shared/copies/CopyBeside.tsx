import { lazy, Suspense, useMemo, useState } from "react";
import type { Overview, Schemas } from "../../api/client";
import { useCopyTexts } from "../../api/copies";
import { useOverview } from "../../api/queries";
import { Live } from "../rendering/Live";
import { Tabs } from "../Tabs";
import { useTry } from "../useEdit";
import { Waiting } from "../Waiting";
import { standingSentences } from "./standings";

const Diff = lazy(() => import("../editor/Diff"));

interface Props {
  doc: string;
  address: string;
  /** What linking it again comes to, where that is to be done. */
  linking?: Schemas["LinkedCopy"];
}

/** A copy beside what it came from and what its block is now, as text and as rendered. */
export function CopyBeside({ doc, address, linking }: Props) {
  const { data, error } = useCopyTexts(doc, address);
  const { data: overview } = useOverview();
  const [as, setAs] = useState<"text" | "rendered">("text");
  if (error || !data || !overview)
    return <Waiting error={error}>Looking at what it came from…</Waiting>;
  return (
    <section className="copy-beside" aria-label="How the copy stands">
      <div className="bar">
        <span>
          {standingSentences[data.standing]}
          {linking && <Becomes copy={data} linked={linking} />}
          {data.why && <span className="soft"> {data.why}.</span>}
          {data.gone && <span className="bad-text"> Its block is not on the shelf any more.</span>}
          {data.restyled && !data.gone && (
            <span className="soft"> The block has another style or behaviour by now.</span>
          )}
        </span>
        <span className="right">
          <Tabs
            label="How it is compared"
            className=""
            value={as}
            choose={setAs}
            tabs={[
              ["text", "Text"],
              ["rendered", "Rendered"],
            ]}
          />
        </span>
      </div>
      {as === "text" ? (
        <Texts copy={data} now={linking?.now} />
      ) : (
        <Renderings copy={data} overview={overview} />
      )}
    </section>
  );
}

type Copy = Schemas["CopyTexts"];

/** What becomes of a copy's own words when it is linked again. */
function Becomes({ copy: c, linked }: { copy: Copy; linked: Schemas["LinkedCopy"] }) {
  const fits = linked.fits.map((f) => `${f.label}: ${f.words}`).join(", ");
  const more = fits ? " else" : "";
  return (
    <b>
      {fits && ` What fits its fields becomes values of this placement: ${fits}.`}
      {c.text === linked.now
        ? ` Nothing${more} changes on the page.`
        : c.text === c.base
          ? " Nothing written here goes; the page shows the block as it is now."
          : ` What${more} is marked on the left below ${
              linked.left ? "would go if it were linked again" : "goes when it is linked again"
            }.`}
    </b>
  );
}

function Texts({ copy: c, now }: { copy: Copy; now?: string }) {
  const pairs =
    now !== undefined
      ? [["The copy, and what stands there once it is linked", c.text, now] as const]
      : c.standing === "unknown"
        ? [["The block now, and the copy", c.now, c.text] as const]
        : [
            ["Changed on this page: what it came from, and the copy", c.base, c.text] as const,
            ["Changed in the block: what it came from, and the block now", c.base, c.now] as const,
          ];
  return pairs.map(([title, before, after]) => (
    <section key={title}>
      <h3>{title}</h3>
      {before === after ? (
        <p className="soft">No difference.</p>
      ) : (
        <Suspense fallback={<p className="soft">Comparing…</p>}>
          <Diff before={before} after={after} label={title} />
        </Suspense>
      )}
    </section>
  ));
}

function Renderings({ copy: c, overview }: { copy: Copy; overview: Overview }) {
  return (
    <div className="copy-sides">
      {c.base !== "" && (
        <Rendered title="What it came from" text={c.head + c.base} overview={overview} />
      )}
      {!c.gone && <Rendered title="The block now" text={c.now_head + c.now} overview={overview} />}
      <Rendered title="The copy" text={c.head + c.text} overview={overview} />
    </div>
  );
}

function Rendered({ title, text, overview }: { title: string; text: string; overview: Overview }) {
  const { url, problem } = useTry(`${text}@{/copy}`, overview);
  const light = useMemo(
    () => ({ block: /^@\{copy of="([^"]*)"/.exec(text)?.[1] ?? "", scroll: true }),
    [text],
  );
  return (
    <div>
      <h3>{title}</h3>
      {problem ? (
        <p className="bad-text">{problem}</p>
      ) : (
        url && <Live url={url} width="phone" title={title} light={light} />
      )}
    </div>
  );
}
