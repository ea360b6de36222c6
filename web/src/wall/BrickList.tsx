import { useMemo, useState } from "react";
import type { Page } from "../api/client";
import { Rows } from "../shared/Rows";
import { wordFor, type Question, type State } from "../shared/states";
import { Sign } from "../shared/wall/Sign";

/** The wall as text: a list that can be filtered. */
export function BrickList({
  pages,
  states,
  only,
  question,
  open,
}: {
  pages: Page[];
  states: State[];
  only: State | null;
  question: Question;
  open: (path: string) => void;
}) {
  const [filter, setFilter] = useState("");
  const rows = useMemo(() => {
    const f = filter.toLowerCase();
    return pages
      .map((p, i) => ({ p, state: states[i] ?? "none" }))
      .filter(
        ({ p, state }) =>
          (!only || state === only) && (p.title.toLowerCase().includes(f) || p.path.includes(f)),
      );
  }, [pages, states, only, filter]);
  return (
    <>
      <div className="shelf-filter" style={{ maxWidth: 280 }}>
        <input
          aria-label="Filter the pages"
          placeholder="Filter the pages"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
      </div>
      <Rows
        label="Pages"
        height={28}
        items={rows}
        keyOf={(r) => r.p.doc}
        row={({ p, state }) => (
          <>
            <Sign state={state} />
            <button type="button" className="plain" onClick={() => open(p.path)}>
              <b dir="auto">{p.title}</b> <span className="soft">{p.path}</span>
            </button>
            <span className="soft">{wordFor(question, state)}</span>
          </>
        )}
      />
    </>
  );
}
