import { useGrowing } from "../shared/useGrowing";
import Add from "@mui/icons-material/Add";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { memo, useCallback, useMemo, useState } from "react";
import { NavLink, useParams } from "react-router";
import { useReference, useSite } from "../api/queries";
import type { BlockSummary, Page } from "../api/client";
import { useBuffers } from "../shared/buffers";
import { dragBlock } from "../shared/calls/drag";
import { NewBlock } from "../shared/NewBlock";
import { keepShelf, keptShelf, planksOf, type Kept, type Plank } from "./order";
import { ShelfMenu } from "./ShelfMenu";
import { strip } from "./strip";

interface Props {
  blocks: BlockSummary[];
  pages: Page[];
  /** Where pages of the draft are shown. */
  origin: string;
}

/** The shelf: every block by category, each with a strip of where it stands. */
export const Shelf = memo(function Shelf({ blocks, pages, origin }: Props) {
  const site = useSite();
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
  const [kept, setKept] = useState(() => keptShelf(site));
  const keep = useCallback(
    (part: Partial<Kept>) =>
      setKept((old) => {
        const next = { ...old, ...part };
        keepShelf(site, next);
        return next;
      }),
    [site],
  );
  const planks = useMemo(() => planksOf(blocks, filter, kept.by), [blocks, filter, kept.by]);
  const categories = useMemo(() => planksOf(blocks, "", "title").map(([c]) => c), [blocks]);
  // One text, so that the list is drawn anew only where another block is edited.
  const edited = useBuffers().unsaved(site).join(" ");
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
        <ShelfMenu kept={kept} set={keep} categories={categories} />
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
        <Planks
          planks={planks}
          open={filter !== ""}
          kept={kept}
          keep={keep}
          edited={edited}
          pages={pages}
          origin={origin}
        />
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
            {blocks.length === 0
              ? "There is no block yet."
              : `No block is called that. Clear the filter to see all ${blocks.length}.`}
          </p>
        )}
      </nav>
    </aside>
  );
});

/** The blocks by category, each of which folds up. */
const Planks = memo(function Planks({
  planks,
  open,
  kept,
  keep,
  edited,
  pages,
  origin,
}: Pick<Props, "pages" | "origin"> & {
  planks: Plank[];
  /** They all stand open, as while one looks for a block. */
  open: boolean;
  kept: Kept;
  keep: (part: Partial<Kept>) => void;
  /** The documents with unsaved edits. */
  edited: string;
}) {
  const site = useSite();
  const { block } = useParams();
  const shown = useGrowing(planks.reduce((n, [, list]) => n + list.length, 0));
  const before = planks.map((_, i) =>
    planks.slice(0, i).reduce((n, [, list]) => n + list.length, 0),
  );
  const marked = new Set(edited.split(" ").map((path) => path.replace(/\.\w+$/, "")));
  return (
    <>
      {planks.map(([name, list], i) => (
        <div key={name}>
          <h2 className="plank" dir="auto">
            <button
              type="button"
              className="plain"
              aria-expanded={!(kept.folded.includes(name) && !open)}
              onClick={() =>
                keep({
                  folded: kept.folded.includes(name)
                    ? kept.folded.filter((f) => f !== name)
                    : [...kept.folded, name],
                })
              }
            >
              <span className="plank-name">{name}</span> <span className="soft">{list.length}</span>
            </button>
          </h2>
          {!(kept.folded.includes(name) && !open) &&
            list.slice(0, Math.max(0, shown - (before[i] ?? 0))).map((b) => (
              <NavLink
                key={b.name}
                to={`/${site}/blocks/${b.name}`}
                className="shelf-row"
                title={b.about ? `${b.title}: ${b.about}` : b.title}
                onDragStart={(e) => dragBlock(e, b.name)}
                ref={b.name === block ? intoView : undefined}
              >
                <b dir="auto">{b.title}</b>
                <span aria-label={`stands on ${b.pages} ${b.pages === 1 ? "page" : "pages"}`}>
                  {marked.has(`blocks/${b.name}`) && (
                    <span className="unsaved-mark" title="Not saved" aria-label="not saved, ">
                      ●
                    </span>
                  )}
                  {b.pages}
                </span>
                {kept.pictures && <Picture block={b} pages={pages} origin={origin} />}
                <Strip row={b.states} />
              </NavLink>
            ))}
        </div>
      ))}
    </>
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

/** A block as it looks on the first page where it is shown; nothing where it is shown nowhere. */
function Picture({
  block: b,
  pages,
  origin,
}: { block: BlockSummary } & Pick<Props, "pages" | "origin">) {
  const path =
    pages[Array.from(b.states).findIndex((s) => s === "l" || s === "o" || s === "c")]?.path;
  if (!path) return null;
  return (
    <span className="shelf-picture">
      <iframe
        src={`${origin}/_draft${path}?shelf-alone=${b.name}&shelf-state=${b.changed}`}
        title={`${b.title} as it looks`}
        aria-hidden
        tabIndex={-1}
        loading="lazy"
        sandbox="allow-scripts"
      />
    </span>
  );
}

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
