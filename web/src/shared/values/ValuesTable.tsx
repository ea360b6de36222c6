import Button from "@mui/material/Button";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useMemo, useRef, useState } from "react";
import type { Operation, Schemas } from "../../api/client";
import { useValues } from "../../api/queries";
import { Say } from "../Say";
import { tell, tellSaved } from "../notices";
import { Answer } from "../usePending";
import { useSaveKey } from "../useSaveKey";
import { useLiveOperation } from "../useOperation";
import { Sliced } from "../Sliced";
import { Waiting } from "../Waiting";
import { subjectOf, useWallSubject, type WallSubject } from "../wall/subject";
import { CellBar } from "./CellBar";
import { cellKeys } from "./cellKeys";
import { fromCsv } from "./csv";
import { asValues, bySection, cellOf, filtering, ofPage, put, type Edits, type Spot } from "./grid";
import { LostFields } from "./LostFields";
import { Misfits } from "./Misfits";
import { useSelection } from "./useSelection";
import { ValuesBar } from "./ValuesBar";
import { ValuesGrid } from "./ValuesGrid";

const none: Edits = new Map();
const nothing = () => undefined;

/** Types of fields whose values are written as a text on one line. */
const typed = new Set(["text", "lines", "number", "link", "date"]);

/** What takes the value of the chosen cells, above the table. */
const formOfCell = ".cell-input :is(input, textarea, button, [role=combobox], [contenteditable])";

/** The values of a block: pages down, fields across; what is inherited and what the
 *  pages have of their own, changed for many at once. */
export function ValuesTable({ block, idle }: { block: string; idle: WallSubject | null }) {
  const { data, error } = useValues(block);
  const waiting = <Waiting error={error}>Looking at every value…</Waiting>;
  if (error || !data) return waiting;
  if (data.fields.length === 0 && data.orphans.length > 0)
    return <LostFields block={block} orphans={data.orphans} done={nothing} />;
  if (data.fields.length === 0)
    return (
      <p className="empty">
        This block has no fields. Give it one in its front matter, and pages can differ in it.
      </p>
    );
  if (data.rows.length === 0) return <p className="empty">This block stands nowhere yet.</p>;
  return (
    <Sliced before={waiting}>
      <Table block={block} table={data} idle={idle} />
    </Sliced>
  );
}

function Table({
  block,
  table,
  idle,
}: {
  block: string;
  table: Schemas["ValueTable"];
  idle: WallSubject | null;
}) {
  const [filter, setFilter] = useState("");
  const [only, setOnly] = useState(false);
  const [ownOf, setOwnOf] = useState("");
  const [edits, setEdits] = useState<Edits>(none);
  const [misfits, setMisfits] = useState<string[]>([]);
  const { rows, items } = useMemo(() => {
    if (filter === "" && !only && ownOf === "") return bySection(table.rows);
    const wanted = filtering(filter);
    return bySection(
      table.rows.filter(
        (r) =>
          wanted(`${r.title} ${r.page} ${r.cells.map((c) => c.text).join(" ")}`) &&
          (!only || r.cells.some((c) => ofPage(c.source))) &&
          (!ownOf ||
            table.fields.some((f, col) => f.name === ownOf && ofPage(r.cells[col]?.source ?? ""))),
      ),
    );
  }, [table, filter, only, ownOf]);
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => 31,
    overscan: 12,
  });
  const focus = (s: Spot) => {
    list.scrollToIndex(
      Math.max(
        items.findIndex((it) => "row" in it && it.row === s.row),
        0,
      ),
    );
    requestAnimationFrame(() =>
      box.current?.querySelector<HTMLElement>(`[data-spot="${s.row} ${s.col}"]`)?.focus(),
    );
  };
  const selection = useSelection(rows.length, table.fields.length, focus);
  const { range, spots } = selection;
  const shown = <T,>(set: (value: T) => void) => {
    return (value: T) => {
      set(value);
      selection.reset();
    };
  };
  const done = useCallback((title: string) => {
    tellSaved(title);
    setEdits(none);
  }, []);
  const operation = useMemo<Operation | null>(
    () => (edits.size ? { operation: "set-values", block, values: asValues(edits) } : null),
    [edits, block],
  );
  const live = useLiveOperation(operation, done);
  const subject = useMemo(() => subjectOf(live.operated), [live.operated]);
  useWallSubject(subject ?? idle);
  const { operated, savable, carryOut: save } = live;
  useSaveKey(edits.size > 0 && !operated && !live.error, savable, save);
  const change = (value: (s: Spot) => string | null, where = spots) =>
    setEdits((e) => put(table, rows, e, where, value));
  const fill = () => {
    const first = Math.min(range.from.row, range.to.row);
    change(
      (s) => cellOf(table, rows, edits, { row: first, col: s.col }).text,
      spots.filter((s) => s.row !== first),
    );
  };
  const [writing, setWriting] = useState<string | null>(null); // what the cell with the focus begins with
  const write = (letter?: string) => {
    const type = table.fields[range.to.col]?.type;
    if (!type || !typed.has(type)) return false;
    setWriting(letter ?? cellOf(table, rows, edits, range.to).text);
    return true;
  };
  const form = () => document.querySelector<HTMLElement>(formOfCell)?.focus();
  const { key, paste } = cellKeys(selection, change, fill, write, form);
  const read = async (file: File | undefined) => {
    if (!file) return;
    const got = fromCsv(table, await file.text(), edits);
    setEdits(got.edits);
    setMisfits(got.problems);
    if (got.problems.length === 0 && got.edits.size === edits.size)
      tell("That value is there already.");
  };
  const ofOneColumn = spots.every((s) => s.col === range.from.col);
  return (
    <>
      <ValuesBar
        block={block}
        table={table}
        rows={rows}
        edits={edits}
        filter={filter}
        setFilter={shown(setFilter)}
        only={only}
        setOnly={shown(setOnly)}
        change={change}
        read={read}
      />
      <LostFields block={block} orphans={table.orphans} done={done} />
      <Misfits list={misfits} close={() => setMisfits([])} />
      {edits.size > 0 && (
        <Say
          tone={live.error ? "bad" : "would"}
          actions={
            <>
              <Button variant="outlined" color="secondary" onClick={() => setEdits(none)}>
                Discard
              </Button>
              <Button variant="contained" disabled={!savable} onClick={save} title="Ctrl+S">
                Save to draft
              </Button>
            </>
          }
        >
          <Answer error={live.error} operated={operated} />
        </Say>
      )}
      <CellBar
        spots={spots}
        rows={rows}
        top={cellOf(table, rows, edits, spots[0] ?? range.from)}
        field={ofOneColumn ? table.fields[range.from.col] : undefined}
        change={change}
        fill={fill}
      />
      <div className="scroll" ref={box}>
        <ValuesGrid
          table={table}
          rows={rows}
          items={items}
          edits={edits}
          selection={selection}
          list={list}
          ownOf={ownOf}
          setOwnOf={shown(setOwnOf)}
          writing={writing}
          keep={(text) => {
            setWriting(null);
            change(() => text);
          }}
          leave={([row, col]) => {
            setWriting(null);
            selection.go({ row: range.to.row + row, col: range.to.col + col }, false);
          }}
          write={write}
          onKeyDown={key}
          onPaste={paste}
        />
      </div>
    </>
  );
}
