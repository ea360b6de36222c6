import Button from "@mui/material/Button";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useMemo, useRef, useState } from "react";
import type { Operation, Schemas } from "../api/client";
import { useValues } from "../api/queries";
import { FieldInput } from "../fields/FieldInput";
import { useChoices } from "../fields/useChoices";
import { Say } from "../shared/Say";
import { tell, tellSaved } from "../shared/notices";
import { Answer, subjectOf } from "../shared/usePending";
import { useSaveKey } from "../shared/useEdit";
import { useLiveOperation } from "../shared/useOperation";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { fromCsv, toCsv } from "./csv";
import {
  asValues,
  bySection,
  cellKey,
  cellOf,
  chosenOf,
  filtering,
  idleIn,
  ofPage,
  pasted,
  put,
  type Edits,
  type Spot,
} from "./grid";
import { LostFields } from "./LostFields";
import { rungWords } from "./rungs";

const none: Edits = new Map();
const nothing = () => undefined;

/** The values of a block: pages down, fields across; what is inherited and what the
 *  pages have of their own, changed for many at once. */
export function ValuesTable({ block, idle }: { block: string; idle: WallSubject | null }) {
  const { data, error } = useValues(block);
  if (error)
    return (
      <p className="empty" role="alert">
        {error.message}
      </p>
    );
  if (!data)
    return (
      <p className="empty" aria-busy="true">
        Looking at every value…
      </p>
    );
  if (data.fields.length === 0 && data.orphans.length > 0)
    return <LostFields block={block} orphans={data.orphans} done={nothing} />;
  if (data.fields.length === 0)
    return (
      <p className="empty">
        This block has no fields. Give it one in its front matter, and pages can differ in it.
      </p>
    );
  if (data.rows.length === 0) return <p className="empty">This block stands nowhere yet.</p>;
  return <Table block={block} table={data} idle={idle} />;
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
  const choices = useChoices();
  const [filter, setFilter] = useState("");
  const [only, setOnly] = useState(false);
  const [edits, setEdits] = useState<Edits>(none);
  const [misfits, setMisfits] = useState<string[]>([]);
  const [find, setFind] = useState("");
  const [replacement, setReplacement] = useState("");
  const [range, setRange] = useState<{ from: Spot; to: Spot }>({
    from: { row: 0, col: 0 },
    to: { row: 0, col: 0 },
  });
  const [more, setMore] = useState<Spot[]>([]);
  const [ownOf, setOwnOf] = useState("");
  const { rows, items } = useMemo(() => {
    const wanted = filtering(filter);
    return bySection(
      table.rows.filter(
        (r) =>
          wanted(`${r.title} ${r.page} ${r.cells.map((c) => c.text).join(" ")}`) &&
          (!only || r.cells.some((c) => ofPage(c.rung))) &&
          (!ownOf ||
            table.fields.some((f, col) => f.name === ownOf && ofPage(r.cells[col]?.rung ?? ""))),
      ),
    );
  }, [table, filter, only, ownOf]);
  const itemOf = useMemo(() => {
    const at: number[] = [];
    items.forEach((it, i) => {
      if ("row" in it) at[it.row] = i;
    });
    return at;
  }, [items]);
  const owners = useMemo(
    () =>
      table.fields.map(
        (_, col) => table.rows.filter((r) => ofPage(r.cells[col]?.rung ?? "")).length,
      ),
    [table],
  );
  const spots = useMemo(() => chosenOf(range, more, rows.length), [range, more, rows.length]);
  const top0 = () => {
    setRange({ from: { row: 0, col: 0 }, to: { row: 0, col: 0 } });
    setMore([]);
  };
  const inRange = (row: number, col: number) =>
    row >= Math.min(range.from.row, range.to.row) &&
    row <= Math.max(range.from.row, range.to.row) &&
    col >= Math.min(range.from.col, range.to.col) &&
    col <= Math.max(range.from.col, range.to.col);
  const column = spots.every((s) => s.col === range.from.col)
    ? table.fields[range.from.col]
    : undefined;
  const added = new Set(more.map((s) => `${s.row} ${s.col}`));
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
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => 31,
    overscan: 12,
  });
  const drawn = list.getVirtualItems();
  const above = drawn[0]?.start ?? 0;
  const below = list.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const go = (to: Spot, extend: boolean) => {
    const s = {
      row: Math.max(0, Math.min(rows.length - 1, to.row)),
      col: Math.max(0, Math.min(table.fields.length - 1, to.col)),
    };
    setRange((r) => ({ from: extend ? r.from : s, to: s }));
    setMore([]);
    list.scrollToIndex(itemOf[s.row] ?? 0);
    requestAnimationFrame(() =>
      box.current?.querySelector<HTMLElement>(`[data-spot="${s.row} ${s.col}"]`)?.focus(),
    );
  };
  const toggle = (s: Spot) =>
    setMore((m) =>
      m.some((o) => o.row === s.row && o.col === s.col)
        ? m.filter((o) => o.row !== s.row || o.col !== s.col)
        : [...m, s],
    );
  const whole = (col: number) => {
    setRange({ from: { row: 0, col }, to: { row: rows.length - 1, col } });
    setMore([]);
  };
  const change = (value: (s: Spot) => string | null, where = spots) =>
    setEdits((e) => put(table, rows, e, where, value));
  const top = cellOf(table, rows, edits, spots[0] ?? range.from);
  const key = (e: React.KeyboardEvent) => {
    const by = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[
      e.key
    ];
    if (by) {
      e.preventDefault();
      go({ row: range.to.row + (by[0] ?? 0), col: range.to.col + (by[1] ?? 0) }, e.shiftKey);
    } else if (e.key === " ") {
      e.preventDefault();
      toggle(range.to);
    } else if (e.key === "Delete" || e.key === "Backspace") {
      e.preventDefault();
      change(() => null);
    } else if (e.key.toLowerCase() === "d" && (e.ctrlKey || e.metaKey)) {
      e.preventDefault();
      fill();
    }
  };
  const idleOwn = useMemo(() => idleIn(table, rows, edits), [table, rows, edits]);
  const csv = useMemo(() => toCsv(table), [table]);
  const read = async (file: File | undefined) => {
    if (!file) return;
    const got = fromCsv(table, await file.text(), edits);
    setEdits(got.edits);
    setMisfits(got.problems);
    if (got.problems.length === 0 && got.edits.size === edits.size)
      tell("It says what stands there already.");
  };
  const holding = useMemo(
    () =>
      find
        ? rows
            .flatMap((_, row) => table.fields.map((_, col) => ({ row, col })))
            .filter((s) => cellOf(table, rows, edits, s).text.includes(find))
        : [],
    [find, table, rows, edits],
  );
  const swap = () =>
    change((s) => cellOf(table, rows, edits, s).text.replaceAll(find, replacement), holding);
  const fill = () => {
    const first = Math.min(range.from.row, range.to.row);
    change(
      (s) => cellOf(table, rows, edits, { row: first, col: s.col }).text,
      spots.filter((s) => s.row !== first),
    );
  };
  const paste = (e: React.ClipboardEvent) => {
    const cells = pasted(e.clipboardData.getData("text/plain"));
    const at = spots[0];
    if (!at) return;
    e.preventDefault();
    const where = cells.flatMap((line, i) =>
      line.map((_, j) => ({ row: at.row + i, col: at.col + j })),
    );
    change((s) => cells[s.row - at.row]?.[s.col - at.col] ?? "", where);
    const last = where.at(-1);
    if (last) setRange({ from: at, to: last });
  };
  return (
    <>
      <div className="bar">
        <label title="All words; a comma stands for or">
          Filter{" "}
          <input
            className="bar-input"
            value={filter}
            onChange={(e) => {
              setFilter(e.target.value);
              top0();
            }}
          />
        </label>
        <button
          type="button"
          className="plain toggle"
          aria-pressed={only}
          onClick={() => {
            setOnly(!only);
            top0();
          }}
        >
          only what differs
        </button>
        <span className="swap">
          <input
            className="bar-input"
            aria-label="Find in values"
            placeholder="Find in values"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          <input
            className="bar-input"
            aria-label="Put in its place"
            placeholder="put in its place"
            value={replacement}
            onChange={(e) => setReplacement(e.target.value)}
          />
          <Button size="small" disabled={holding.length === 0} onClick={swap}>
            {find === ""
              ? "Replace"
              : holding.length === 0
                ? "Found nowhere"
                : `Replace in ${holding.length} ${holding.length === 1 ? "value" : "values"}`}
          </Button>
        </span>
        {idleOwn.length > 0 && (
          <button
            type="button"
            className="plain word"
            onClick={() => change(() => null, idleOwn)}
            title="Values of their own that say what the pages would inherit anyway"
          >
            Take back {idleOwn.length} that say the same
          </button>
        )}
        <span className="right" title="placements">
          {rows.length} of {table.rows.length}
        </span>
        <Button
          size="small"
          component="a"
          download={`${block}.csv`}
          href={`data:text/csv;charset=utf-8,${encodeURIComponent(csv)}`}
        >
          CSV out
        </Button>
        <Button size="small" component="label">
          CSV in
          <input
            type="file"
            accept=".csv,text/csv"
            hidden
            onChange={(e) => {
              void read(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </Button>
      </div>
      <LostFields block={block} orphans={table.orphans} done={done} />
      {misfits.length > 0 && (
        <div className="misfits" role="alert">
          <b>
            {misfits.length === 1 ? "This does" : `These ${misfits.length} do`} not fit, and nothing
            is set by {misfits.length === 1 ? "it" : "them"}:
          </b>{" "}
          <Button size="small" onClick={() => setMisfits([])}>
            Close
          </Button>
          <ul>
            {misfits.slice(0, 200).map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </div>
      )}
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
      <div className="cell-bar">
        <span className="soft">
          {spots.length === 1
            ? `${rows[spots[0]?.row ?? 0]?.title ?? ""}: ${top.edited ? "set here" : sayRung(top.rung, top.doc)}`
            : `${spots.length} cells`}
        </span>
        {column && rows.length > 0 && (
          <div className="cell-input">
            <FieldInput
              field={column}
              value={top.text}
              choices={choices}
              change={(v) => change(() => v)}
            />
          </div>
        )}
        <Button size="small" disabled={spots.length < 2} onClick={fill} title="Ctrl+D">
          Fill down
        </Button>
        <Button size="small" onClick={() => change(() => null)} title="Delete">
          Take back
        </Button>
      </div>
      <div className="scroll" ref={box}>
        <table
          className="rows values"
          role="grid"
          aria-label="Values"
          aria-multiselectable
          aria-rowcount={rows.length + 1}
          onKeyDown={key}
          onPaste={paste}
        >
          <thead>
            <tr>
              <th scope="col">Page</th>
              {table.fields.map((f, col) => (
                <th key={f.name} scope="col" aria-label={f.label}>
                  <button
                    type="button"
                    className="plain head"
                    onClick={() => whole(col)}
                    title={`Choose ${f.label} on all ${rows.length}`}
                  >
                    {f.label}
                  </button>
                  {(owners[col] ?? 0) > 0 && (
                    <button
                      type="button"
                      className="plain toggle"
                      aria-pressed={ownOf === f.name}
                      onClick={() => {
                        setOwnOf(ownOf === f.name ? "" : f.name);
                        top0();
                      }}
                      aria-label={`${owners[col] ?? 0} have their own ${f.label}`}
                      title="Only pages that have their own"
                    >
                      {owners[col]} own
                    </button>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {above > 0 && (
              <tr aria-hidden>
                <td
                  colSpan={table.fields.length + 1}
                  style={{ height: above, padding: 0, border: 0 }}
                />
              </tr>
            )}
            {drawn.map((v) => {
              const item = items[v.index];
              if (item && "section" in item)
                return (
                  <tr key={`/${item.section}`}>
                    <th
                      scope="rowgroup"
                      colSpan={table.fields.length + 1}
                      className="tight section"
                    >
                      /{item.section} <span className="soft">{item.count}</span>
                    </th>
                  </tr>
                );
              const row = item?.row ?? 0;
              const r = rows[row];
              return (
                r && (
                  <tr key={r.doc + r.address} aria-rowindex={row + 2}>
                    <th scope="row" className="tight" title={r.address}>
                      <b>{r.title}</b> <span className="soft">{r.page}</span>
                    </th>
                    {table.fields.map((f, col) => {
                      const c = cellOf(table, rows, edits, { row, col });
                      const chosen = inRange(row, col) || added.has(`${row} ${col}`);
                      const here = range.to.row === row && range.to.col === col;
                      return (
                        <td
                          key={f.name}
                          role="gridcell"
                          data-spot={`${row} ${col}`}
                          data-cell={cellKey(r, f.name)}
                          tabIndex={here ? 0 : -1}
                          aria-selected={chosen}
                          className={`tight cell ${c.own ? "own" : "inherited"}${c.edited ? " edited" : ""}`}
                          title={c.edited ? "not saved yet" : sayRung(c.rung, c.doc)}
                          onMouseDown={(e) => {
                            if (e.shiftKey) e.preventDefault();
                          }}
                          onClick={(e) => {
                            if (e.ctrlKey || e.metaKey) toggle({ row, col });
                            else go({ row, col }, e.shiftKey);
                          }}
                        >
                          {c.text || <span className="soft">nothing</span>}
                          {c.own && <span className="unseen"> of its own</span>}
                        </td>
                      );
                    })}
                  </tr>
                )
              );
            })}
            {below > 0 && (
              <tr aria-hidden>
                <td
                  colSpan={table.fields.length + 1}
                  style={{ height: below, padding: 0, border: 0 }}
                />
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </>
  );
}

function sayRung(rung: string, doc: string): string {
  return rung === "none"
    ? "nothing says it"
    : `from ${rungWords({ rung: rung as Schemas["Rung"]["rung"], doc, set: true, text: "", line: 0, column: 0, bad: "" })}`;
}
