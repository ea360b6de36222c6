import { typing } from "../shared/typing";

/** Lists, which are moved through with the arrow keys: their rows, and what stands in rows. */
const lists = "ul, ol, .shelf-list, .reference-list";
const rowsOf = "li, .shelf-row, .plank, .reference-row";
const stops = "a[href], button:not(:disabled), input:not(:disabled), [tabindex='0']";

/** Where arrow keys mean something else already. */
const elsewhere =
  ".cm-editor, [role=grid], [role=tablist], [role=listbox], [role=menu], [role=combobox], [role=slider], [role=separator], [aria-roledescription], [aria-description], .sides";

const stopsOf = (row: Element) =>
  row.matches(stops) ? [row as HTMLElement] : [...row.querySelectorAll<HTMLElement>(stops)];

/** Moves the focus from row to row of a list, staying in the same part of a row. Home and End lead to
 *  the first and the last row. */
export function arrowsInLists(e: KeyboardEvent) {
  if (e.defaultPrevented || e.ctrlKey || e.altKey || e.metaKey || e.shiftKey || typing(e)) return;
  if (!["ArrowDown", "ArrowUp", "Home", "End"].includes(e.key)) return;
  const at = e.target instanceof Element ? e.target : null;
  const list = at?.closest(lists) ?? at?.querySelector(":scope > .rows-list");
  if (!at || !list || at.closest(elsewhere)) return;
  e.preventDefault();
  const ends = e.key === "Home" || e.key === "End";
  const box = list.parentElement;
  if (ends && box && list.matches(".rows-list")) {
    box.scrollTop = e.key === "Home" ? 0 : box.scrollHeight; // the ends are drawn once they are in sight
    requestAnimationFrame(() => requestAnimationFrame(() => step(list, at, e.key)));
  } else step(list, at, e.key);
}

function step(list: Element, at: Element, key: string) {
  const rows = [...list.querySelectorAll(rowsOf)].filter((r) => stopsOf(r).length > 0);
  const now = rows.findLastIndex((r) => r.contains(at));
  const row = rows[now];
  const part = row ? stopsOf(row).findIndex((s) => s.contains(at)) : 0;
  const to = { Home: 0, End: rows.length - 1, ArrowDown: now + 1 }[key] ?? now - 1;
  const next = rows[to];
  if (!next) return;
  const there = stopsOf(next);
  const stop = there[Math.min(part, there.length - 1)];
  stop?.focus();
  stop?.scrollIntoView({ block: "nearest" });
}
