import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef, useState } from "react";
import type { Page } from "../api/client";
import { wordFor, type Question, type State } from "../shared/states";
import { Sign } from "./Sign";

/** The wall as text: a list that can be filtered. */
export function BrickList({ pages, states, only, question, open }: { pages: Page[]; states: State[]; only: State | null; question: Question; open: (path: string) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const [filter, setFilter] = useState("");
  const rows = useMemo(() => {
    const f = filter.toLowerCase();
    return pages.map((p, i) => ({ p, state: states[i] ?? "none" })).filter(({ p, state }) => (!only || state === only) && (p.title.toLowerCase().includes(f) || p.path.includes(f)));
  }, [pages, states, only, filter]);
  const list = useVirtualizer({ count: rows.length, getScrollElement: () => box.current, estimateSize: () => 28, overscan: 12 });
  return (
    <>
      <div className="shelf-filter" style={{ maxWidth: 280 }}><input aria-label="Filter the pages" placeholder="Filter the pages" value={filter} onChange={(e) => setFilter(e.target.value)} /></div>
      <div className="brick-list" ref={box} tabIndex={0} role="region" aria-label="Pages">
        <ul style={{ height: list.getTotalSize(), position: "relative", margin: 0, padding: 0, listStyle: "none" }}>
          {list.getVirtualItems().map((v) => {
            const row = rows[v.index];
            return row && (
              <li key={row.p.doc} className="brick-row" style={{ top: v.start }}>
                <Sign state={row.state} />
                <button type="button" className="plain" onClick={() => open(row.p.path)}><b>{row.p.title}</b> <span className="soft">{row.p.path}</span></button>
                <span className="soft">{wordFor(question, row.state)}</span>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
