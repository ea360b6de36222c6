import type { ClipboardEvent, KeyboardEvent } from "react";
import { pasted, type Spot } from "./grid";
import type { useSelection } from "./useSelection";

type Change = (value: (s: Spot) => string | null, where?: Spot[]) => void;

const arrows: Record<string, [row: number, col: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** What keys do in the table, and what is pasted into it. write begins to write into the cell
 *  that has the focus, with what it holds or with a first letter, and is false where it holds
 *  no text; form leads to its form in that case. */
export function cellKeys(
  selection: ReturnType<typeof useSelection>,
  change: Change,
  fill: () => void,
  write: (letter?: string) => boolean,
  form: () => void,
) {
  const { range, spots } = selection;
  const key = (e: KeyboardEvent) => {
    const by = arrows[e.key];
    const mod = e.ctrlKey || e.metaKey;
    // In the head there are buttons, which have keys of their own.
    if (e.target instanceof HTMLElement && e.target.closest("thead")) return;
    if (e.key === "Enter" || e.key === "F2") {
      e.preventDefault();
      if (!write()) form();
    } else if (e.key === "Home" || e.key === "End") {
      e.preventDefault();
      const end = e.key === "End" ? Infinity : 0;
      selection.go(
        mod ? { row: end, col: range.to.col } : { row: range.to.row, col: end },
        e.shiftKey,
      );
    } else if (e.key.length === 1 && e.key !== " " && !mod && !e.altKey) {
      if (write(e.key)) e.preventDefault();
    } else if (by) {
      e.preventDefault();
      selection.go({ row: range.to.row + by[0], col: range.to.col + by[1] }, e.shiftKey);
    } else if (e.key === " ") {
      e.preventDefault();
      selection.toggle(range.to);
    } else if (e.key === "Delete" || e.key === "Backspace") {
      e.preventDefault();
      change(() => null);
    } else if (e.key.toLowerCase() === "d" && mod) {
      e.preventDefault();
      fill();
    }
  };
  const paste = (e: ClipboardEvent) => {
    const cells = pasted(e.clipboardData.getData("text/plain"));
    const at = spots[0];
    if (!at) return;
    e.preventDefault();
    const where = cells.flatMap((line, i) =>
      line.map((_, j) => ({ row: at.row + i, col: at.col + j })),
    );
    change((s) => cells[s.row - at.row]?.[s.col - at.col] ?? "", where);
    const last = where.at(-1);
    if (last) selection.choose(at, last);
  };
  return { key, paste };
}
