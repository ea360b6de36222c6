import Add from "@mui/icons-material/Add";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { memo, useCallback, useMemo, useState } from "react";
import { NavLink, useParams } from "react-router";
import { useReference, useSite } from "../api/queries";
import type { BlockSummary } from "../api/client";
import { dragBlock } from "../shared/calls/drag";
import { NewBlock } from "../shared/NewBlock";
import { strip } from "./strip";

/** The shelf: every block by category, each with a strip of where it stands. */
export const Shelf = memo(function Shelf({ blocks }: { blocks: BlockSummary[] }) {
  const site = useSite();
  const { block } = useParams();
  const [filter, setFilter] = useState("");
  const [making, setMaking] = useState(false);
  const { data } = useReference();
  const scripts = useMemo(
    () =>
      (data?.entries ?? []).filter(
        (e) =>
          e.kind === "scripted" &&
          `${e.title} ${e.name} scripts`.toLowerCase().includes(filter.toLowerCase()),
      ),
    [data, filter],
  );
  const stop = useCallback(() => setMaking(false), []);
  const planks = useMemo(() => {
    const f = filter.toLowerCase();
    const out = new Map<string, BlockSummary[]>();
    for (const b of blocks) {
      if (
        !b.title.toLowerCase().includes(f) &&
        !b.name.includes(f) &&
        !b.category.toLowerCase().includes(f)
      )
        continue;
      const c = b.category || "Other";
      out.set(c, [...(out.get(c) ?? []), b]);
    }
    return [...out.entries()].sort(([a], [b]) => rank(a) - rank(b) || (a < b ? -1 : 1));
  }, [blocks, filter]);
  return (
    <aside aria-label="Shelf of blocks">
      <div className="shelf-filter">
        <input
          type="search"
          aria-label="Filter the shelf"
          placeholder="Filter the shelf"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
        <Tooltip title="New block">
          <IconButton
            size="small"
            aria-label="New block"
            aria-expanded={making}
            onClick={() => setMaking(!making)}
          >
            <Add fontSize="small" />
          </IconButton>
        </Tooltip>
      </div>
      {making && <NewBlock blocks={blocks} close={stop} />}
      <nav className="shelf-list" aria-label="Blocks">
        {planks.map(([name, list]) => (
          <div key={name}>
            <h2 className="plank">{name}</h2>
            {list.map((b) => (
              <NavLink
                key={b.name}
                to={`/${site}/blocks/${b.name}`}
                className="shelf-row"
                title={b.about}
                onDragStart={(e) => dragBlock(e, b.name)}
                ref={b.name === block ? intoView : undefined}
              >
                <b dir="auto">{b.title}</b>
                <span aria-label={`stands on ${b.pages} ${b.pages === 1 ? "page" : "pages"}`}>
                  {b.pages}
                </span>
                <Strip row={b.states} />
              </NavLink>
            ))}
          </div>
        ))}
        {scripts.length > 0 && (
          <div>
            <h2 className="plank">Scripts</h2>
            {scripts.map((s) => (
              <NavLink
                key={s.name}
                to={`/${site}/scripts/${s.name}`}
                className="shelf-row"
                title={s.about}
                onDragStart={(e) => dragBlock(e, s.name)}
              >
                <b dir="auto">{s.title}</b>
                <span aria-label={`called on ${s.pages} pages`}>{s.on ? s.pages : "off"}</span>
              </NavLink>
            ))}
          </div>
        )}
        {planks.length + scripts.length === 0 && (
          <p className="empty">
            No block is called that. Clear the filter to see all {blocks.length}.
          </p>
        )}
      </nav>
    </aside>
  );
});

/** Brings the row into view. The observer tells whether it is once the shelf has been
 *  laid out, which asking at once would force. */
function intoView(row: HTMLElement | null) {
  if (!row) return;
  const observer = new IntersectionObserver(([seen]) => {
    observer.disconnect();
    if (seen && seen.intersectionRatio < 1) row.scrollIntoView({ block: "nearest" });
  });
  observer.observe(row);
  return () => observer.disconnect();
}

// What frames every page comes first.
const rank = (category: string) => (category === "Frame" ? 0 : 1);

/** Where a block stands, at a glance. */
function Strip({ row }: { row: string }) {
  const paths = useMemo(() => strip(row), [row]);
  return (
    <svg className="strip" viewBox="0 0 400 14" preserveAspectRatio="none" aria-hidden>
      {paths.map(([state, d]) => (
        <path key={state} className={state} d={d} />
      ))}
    </svg>
  );
}
