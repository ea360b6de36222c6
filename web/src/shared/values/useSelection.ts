import { useCallback, useMemo, useState } from "react";
import { chosenOf, type Spot } from "./grid";

const start = { row: 0, col: 0 };

/** The cells that are chosen: a rectangle that is drawn out from one, and single ones beside
 *  it. rows and fields are how many there are; focus brings a cell into view and hands it
 *  the keyboard. */
export function useSelection(rows: number, fields: number, focus: (spot: Spot) => void) {
  const [range, setRange] = useState<{ from: Spot; to: Spot }>({ from: start, to: start });
  const [more, setMore] = useState<Spot[]>([]);
  const spots = useMemo(() => chosenOf(range, more, rows), [range, more, rows]);
  const choose = useCallback((from: Spot, to: Spot) => {
    setRange({ from, to });
    setMore([]);
  }, []);
  const go = (to: Spot, extend: boolean) => {
    const spot = {
      row: Math.max(0, Math.min(rows - 1, to.row)),
      col: Math.max(0, Math.min(fields - 1, to.col)),
    };
    choose(extend ? range.from : spot, spot);
    focus(spot);
  };
  const toggle = (s: Spot) =>
    setMore((m) =>
      m.some((o) => o.row === s.row && o.col === s.col)
        ? m.filter((o) => o.row !== s.row || o.col !== s.col)
        : [...m, s],
    );
  const added = useMemo(() => new Set(more.map((s) => `${s.row} ${s.col}`)), [more]);
  const has = (row: number, col: number) =>
    added.has(`${row} ${col}`) ||
    (row >= Math.min(range.from.row, range.to.row) &&
      row <= Math.max(range.from.row, range.to.row) &&
      col >= Math.min(range.from.col, range.to.col) &&
      col <= Math.max(range.from.col, range.to.col));
  return {
    range,
    spots,
    has,
    go,
    toggle,
    choose,
    /** Chooses a whole column. */
    column: (col: number) => choose({ row: 0, col }, { row: rows - 1, col }),
    /** Goes back to the first cell, as where other rows are shown. */
    reset: () => choose(start, start),
  };
}
