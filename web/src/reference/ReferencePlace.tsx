import { Waiting } from "../shared/Waiting";
import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Entry, Field, Operated, Overview } from "../api/client";
import { useCallers, useOverview, useReference, useSite } from "../api/queries";
import { CallChip } from "../shared/calls/CallChip";
import { Live } from "../shared/rendering/Live";
import { NotShown } from "../shared/NotShown";
import { useTry } from "../shared/useEdit";
import { limits } from "../shared/fields/FieldInput";
import { Tabs } from "../shared/Tabs";
import { effectStates, standing, type State } from "../shared/states";
import { NewScript } from "./NewScript";
import { Sets } from "./Sets";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";

/** Everything that can be called: what it is for, its parameters, a sample as it
 *  looks, and where it is used. */
export function ReferencePlace() {
  const { name } = useParams();
  const site = useSite();
  const overview = useOverview();
  const { data } = useReference();
  const [filter, setFilter] = useState("");
  const [params, setParams] = useSearchParams();
  const [asked, setAsked] = useState<Operated | null>(null);
  const tab = params.get("part") === "sets" ? "sets" : "calls";
  const entry = data?.entries.find((e) => e.name === name) ?? data?.entries[0];
  const row = overview.data?.blocks.find((b) => b.name === entry?.name)?.states;
  const callers = useCallers(entry && entry.kind !== "block" ? entry.name : "");
  const subject = useMemo<WallSubject | null>(() => {
    if (tab === "sets") {
      const im = asked?.proposal.impact;
      return im
        ? {
            question: "would",
            about: `What would that change? ${asked.change_set.title}`,
            states: effectStates(im.effects),
            against: asked.proposal.id,
          }
        : null;
    }
    if (!entry || !overview.data) return null;
    const on = new Set(callers.data);
    const states = row
      ? standing(row)
      : overview.data.pages.map((p): State => (on.has(p.path) ? "linked" : "none"));
    return {
      question: "stands",
      about: row ? `Where does ${entry.title} stand?` : `Where is ${entry.title} called?`,
      states,
      against: "live",
    };
  }, [row, entry, callers.data, overview.data, tab, asked]);
  useWallSubject(subject);
  if (!data || !overview.data || !entry) return <Waiting error={null}>Opening…</Waiting>;
  const f = filter.toLowerCase();
  const found = data.entries.filter((e) =>
    `${e.name} ${e.title} ${e.category} ${e.about}`.toLowerCase().includes(f),
  );
  return (
    <>
      <div className="subject">
        <h1>Reference</h1>
        <span className="soft">
          {data.entries.filter((e) => e.on).length} blocks and shortcodes that can be called
        </span>
        <NewScript taken={data.entries.map((e) => e.name)} />
        <Tabs
          label="Parts of the reference"
          value={tab}
          choose={(t) => setParams(t === "sets" ? { part: "sets" } : {})}
          tabs={[
            ["calls", "Calls"],
            ["sets", `Sets ${data.sets.length}`],
          ]}
        />
      </div>
      {tab === "sets" ? (
        <Sets reference={data} overview={overview.data} shown={setAsked} />
      ) : (
        <div className="reference">
          <div className="panel">
            <div className="shelf-filter">
              <input
                aria-label="Filter the reference"
                placeholder="Filter"
                value={filter}
                onChange={(e) => setFilter(e.target.value)}
              />
            </div>
            <nav className="scroll" aria-label="What can be called">
              {found.map((e) => (
                <Link
                  key={e.name}
                  to={`/${site}/reference/${e.name}`}
                  className="reference-row"
                  aria-current={e === entry ? "page" : undefined}
                >
                  <span>
                    <b>{e.title}</b> <code>{e.call}</code>
                  </span>
                  <span className="soft">
                    {e.about || (e.kind === "built-in" ? "Built in." : "")}
                  </span>
                </Link>
              ))}
              {found.length === 0 && <p className="empty">Nothing is called that.</p>}
            </nav>
          </div>
          <Described key={entry.name} entry={entry} overview={overview.data} />
        </div>
      )}
    </>
  );
}

function Described({ entry: e, overview }: { entry: Entry; overview: Overview }) {
  const site = useSite();
  const pages = overview.blocks.find((b) => b.name === e.name)?.pages ?? 0;
  const { url, problem } = useTry(e.sample.replaceAll("…", "Text"), overview);
  const light = useMemo(() => ({ block: e.name, scroll: true }), [e.name]);
  return (
    <div className="panel">
      <div className="scroll entry" tabIndex={0} role="region" aria-label={e.title}>
        <h2>{e.title}</h2>
        <p>
          {e.about || "Nobody has written yet what this is for."}{" "}
          <span className="soft">
            {e.kind === "block" ? (
              <Link to={`/${site}/blocks/${e.name}?tab=placements`}>
                Linked on {pages} {pages === 1 ? "page" : "pages"}
              </Link>
            ) : e.kind === "scripted" ? (
              <Link to={`/${site}/scripts/${e.name}`}>Edit and try out</Link>
            ) : (
              "Built in"
            )}
          </span>
        </p>
        {e.kind !== "block" && (
          <p className="soft">
            Called on {e.pages} {e.pages === 1 ? "page" : "pages"}. In the set {e.set}
            {e.on ? "." : ", which is switched off: its calls show nothing."}
          </p>
        )}
        <p>
          <CallChip call={e.call} />
        </p>
        {e.fields.length > 0 && (
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Parameter</th>
                <th scope="col">Type</th>
                <th scope="col">Otherwise</th>
              </tr>
            </thead>
            <tbody>
              {e.fields.map((f) => (
                <Parameter key={f.name} field={f} />
              ))}
            </tbody>
          </table>
        )}
        {e.encloses && <p className="soft">Shows the content that its call encloses.</p>}
        <h2>Sample</h2>
        <p>
          <CallChip call={e.sample} />
        </p>
      </div>
      {problem && <NotShown what="The sample" problem={problem} />}
      {url && (
        <div style={{ height: "42%", display: "flex", borderTop: "1px solid var(--mortar)" }}>
          <Live url={url} width="tablet" title={`Sample of ${e.title}`} light={light} />
        </div>
      )}
    </div>
  );
}

function Parameter({ field: f }: { field: Field }) {
  return (
    <tr>
      <td>
        <code>{f.name}</code>
        {f.label !== f.name && <span className="soft"> {f.label}</span>}
        {f.help && <div className="soft">{f.help}</div>}
      </td>
      <td>
        {f.type}
        {f.choices.length > 0 && <span className="soft">: {f.choices.join(", ")}</span>}
        {limits(f) && <span className="soft">, {limits(f)}</span>}
        {f.fields.length > 0 && (
          <span className="soft"> of {f.fields.map((s) => s.name).join(", ")}</span>
        )}
      </td>
      <td>
        {f.required ? (
          <b>required</b>
        ) : (
          <span className="soft">
            {[f.from, f.default_text].filter(Boolean).join(", else ") || "nothing"}
          </span>
        )}
      </td>
    </tr>
  );
}
