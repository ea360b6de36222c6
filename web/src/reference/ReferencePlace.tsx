import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import type { Entry, Field, Overview } from "../api/client";
import { useOverview, useReference, useSite } from "../api/queries";
import { CallChip } from "../block/CallChip";
import { Live } from "../block/Live";
import { useTry } from "../shared/useEdit";
import { standing } from "../shared/states";
import { useWallSubject, type WallSubject } from "../wall/subject";

/** Everything that can be called: what it is for, its parameters, a sample as it
 *  looks, and where it is used. */
export function ReferencePlace() {
  const { name } = useParams();
  const site = useSite();
  const overview = useOverview();
  const { data } = useReference();
  const [filter, setFilter] = useState("");
  const entry = data?.entries.find((e) => e.name === name) ?? data?.entries[0];
  const row = overview.data?.blocks.find((b) => b.name === entry?.name)?.states;
  const subject = useMemo<WallSubject | null>(() => (row && entry ? { question: "stands", about: `Where does ${entry.title} stand?`, states: standing(row), against: "live" } : null), [row, entry]);
  useWallSubject(subject);
  if (!data || !overview.data || !entry) return null;
  const f = filter.toLowerCase();
  const found = data.entries.filter((e) => `${e.name} ${e.title} ${e.category} ${e.about}`.toLowerCase().includes(f));
  return (
    <>
      <div className="subject"><h1>Reference</h1><span className="soft">{data.entries.length} blocks and shortcodes that can be called</span></div>
      <div className="reference">
        <div className="panel">
          <div className="shelf-filter"><input aria-label="Filter the reference" placeholder="Filter" value={filter} onChange={(e) => setFilter(e.target.value)} /></div>
          <nav className="scroll" aria-label="What can be called">
            {found.map((e) => (
              <Link key={e.name} to={`/${site}/reference/${e.name}`} className="reference-row" aria-current={e === entry ? "page" : undefined}>
                <span><b>{e.title}</b> <code>{e.call}</code></span>
                <span className="soft">{e.about || (e.kind === "built-in" ? "Built in." : "")}</span>
              </Link>
            ))}
            {found.length === 0 && <p className="empty">Nothing is called that.</p>}
          </nav>
        </div>
        <Described key={entry.name} entry={entry} overview={overview.data} />
      </div>
    </>
  );
}

function Described({ entry: e, overview }: { entry: Entry; overview: Overview }) {
  const site = useSite();
  const pages = overview.blocks.find((b) => b.name === e.name)?.pages ?? 0;
  const preview = useTry(e.sample.replaceAll("…", "Text"), overview);
  const light = useMemo(() => ({ block: e.name, scroll: true }), [e.name]);
  return (
    <div className="panel">
      <div className="scroll entry" tabIndex={0} role="region" aria-label={e.title}>
        <h2>{e.title}</h2>
        <p>{e.about || "Nobody has written yet what this is for."} <span className="soft">{e.kind === "block" ? <Link to={`/${site}/blocks/${e.name}?tab=placements`}>Linked on {pages} {pages === 1 ? "page" : "pages"}</Link> : "Built in"}</span></p>
        <p><CallChip call={e.call} /></p>
        {e.fields.length > 0 && (
          <table className="rows">
            <thead><tr><th scope="col">Parameter</th><th scope="col">Type</th><th scope="col">Otherwise</th></tr></thead>
            <tbody>{e.fields.map((f) => <Parameter key={f.name} field={f} />)}</tbody>
          </table>
        )}
        {e.encloses && <p className="soft">Shows the content that its call encloses.</p>}
        <h2>Sample</h2>
        <p><CallChip call={e.sample} /></p>
      </div>
      {preview && <div style={{ height: "42%", display: "flex", borderTop: "1px solid var(--mortar)" }}><Live url={preview} width="tablet" title={`Sample of ${e.title}`} light={light} /></div>}
    </div>
  );
}

function Parameter({ field: f }: { field: Field }) {
  return (
    <tr>
      <td><code>{f.name}</code>{f.label !== f.name && <span className="soft"> {f.label}</span>}{f.help && <div className="soft">{f.help}</div>}</td>
      <td>{f.type}{f.choices.length > 0 && <span className="soft">: {f.choices.join(", ")}</span>}{f.fields.length > 0 && <span className="soft"> of {f.fields.map((s) => s.name).join(", ")}</span>}</td>
      <td>{f.required ? <b>required</b> : <span className="soft">{[f.from, f.default_text].filter(Boolean).join(", else ") || "nothing"}</span>}</td>
    </tr>
  );
}
