import { useMemo, useState } from "react";
import { Link } from "react-router";
import type { Overview, Rolled } from "../api/client";
import { useSite } from "../api/queries";
import { Rows } from "../shared/Rows";

const words: Record<Rolled["outcome"], string> = {
  added: "gets it",
  removed: "loses it",
  there: "has it already",
  "not-there": "nothing to take",
  "no-region": "cannot have it",
};

const many: typeof words = {
  added: "get it",
  removed: "lose it",
  there: "have it already",
  "not-there": "have nothing to take",
  "no-region": "cannot have it",
};

/** Every chosen page with what will happen to it and why. */
export function RolledList({ rolled, overview }: { rolled: Rolled[]; overview: Overview }) {
  const site = useSite();
  const [only, setOnly] = useState<Rolled["outcome"] | "">("");
  const counts = useMemo(() => {
    const out = new Map<Rolled["outcome"], number>();
    for (const r of rolled) out.set(r.outcome, (out.get(r.outcome) ?? 0) + 1);
    return [...out];
  }, [rolled]);
  const titles = useMemo(
    () => new Map([...overview.pages, ...overview.drafts].map((p) => [p.doc, p.title])),
    [overview],
  );
  const shown = counts.some(([o]) => o === only)
    ? rolled.filter((r) => r.outcome === only)
    : rolled;
  if (rolled.length === 0)
    return <p className="empty">Each chosen page is listed here with what will happen to it.</p>;
  return (
    <>
      <div className="bar" role="group" aria-label="What happens to how many">
        {counts.map(([o, n]) => (
          <button
            key={o}
            type="button"
            className="plain toggle"
            aria-pressed={only === o}
            onClick={() => setOnly(only === o ? "" : o)}
          >
            {n} {n === 1 ? words[o] : many[o]}
          </button>
        ))}
      </div>
      <Rows
        label="What happens to each page"
        height={30}
        items={shown}
        keyOf={(r) => r.doc}
        row={(r) => (
          <span className="rolled">
            <Link className="target-name" to={`/${site}/pages?doc=${encodeURIComponent(r.doc)}`}>
              {titles.get(r.doc) ?? r.page}
            </Link>
            <span className="soft target-name" title={r.why}>
              {r.why}
            </span>
            <span className={`outcome ${r.outcome}`}>{words[r.outcome]}</span>
          </span>
        )}
      />
    </>
  );
}
