import type { Virtualizer } from "@tanstack/react-virtual";
import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { cellKey, cellOf, ofPage, type bySection, type Edits } from "./grid";
import { CellInput, type Leave } from "./CellInput";
import { useCalled } from "../useCalled";
import { saySource } from "./sources";
import type { useSelection } from "./useSelection";

interface Props {
  table: Schemas["ValueTable"];
  rows: Schemas["ValueRow"][];
  items: ReturnType<typeof bySection>["items"];
  edits: Edits;
  selection: ReturnType<typeof useSelection>;
  list: Virtualizer<HTMLDivElement, Element>;
  ownOf: string;
  setOwnOf: (field: string) => void;
  /** What the cell with the focus begins with while one writes into it; else null. */
  writing: string | null;
  keep: (text: string) => void;
  leave: (by: Leave) => void;
  write: () => boolean;
  onKeyDown: React.KeyboardEventHandler;
  onPaste: React.ClipboardEventHandler;
}

/** The table itself: of its rows those in view. */
export function ValuesGrid(p: Props) {
  const { table, rows, items, list } = p;
  const called = useCalled();
  const drawn = list.getVirtualItems();
  const above = drawn[0]?.start ?? 0;
  const below = list.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const width = table.fields.length + 1;
  return (
    <table
      className="rows values"
      role="grid"
      aria-label="Values"
      aria-multiselectable
      aria-rowcount={rows.length + 1}
      onKeyDown={p.onKeyDown}
      onPaste={p.onPaste}
    >
      <Heads {...p} />
      <tbody>
        <Gap width={width} height={above} />
        {drawn.map((v) => {
          const item = items[v.index];
          if (item && "section" in item)
            return (
              <tr key={`/${item.section}`}>
                <th scope="rowgroup" colSpan={width} className="tight section">
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
                {table.fields.map((f, col) => (
                  <Cell key={f.name} {...p} called={called} row={row} col={col} />
                ))}
              </tr>
            )
          );
        })}
        <Gap width={width} height={below} />
      </tbody>
    </table>
  );
}

function Gap({ width, height }: { width: number; height: number }) {
  if (height <= 0) return null;
  return (
    <tr aria-hidden>
      <td colSpan={width} style={{ height, padding: 0, border: 0 }} />
    </tr>
  );
}

function Heads({ table, rows, selection, ownOf, setOwnOf }: Props) {
  const owners = useMemo(
    () =>
      table.fields.map(
        (_, col) => table.rows.filter((r) => ofPage(r.cells[col]?.source ?? "")).length,
      ),
    [table],
  );
  return (
    <thead>
      <tr>
        <th scope="col">Page</th>
        {table.fields.map((f, col) => (
          <th key={f.name} scope="col" aria-label={f.label}>
            <button
              type="button"
              className="plain head"
              onClick={() => selection.column(col)}
              title={`Choose ${f.label} on all ${rows.length}`}
            >
              {f.label}
            </button>
            {(owners[col] ?? 0) > 0 && (
              <button
                type="button"
                className="plain toggle"
                aria-pressed={ownOf === f.name}
                onClick={() => setOwnOf(ownOf === f.name ? "" : f.name)}
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
  );
}

function Cell(p: Props & { row: number; col: number; called: (path: string) => string }) {
  const { table, rows, edits, selection, row, col } = p;
  const c = cellOf(table, rows, edits, { row, col });
  const r = rows[row];
  const f = table.fields[col];
  const { range } = selection;
  if (!r || !f) return null;
  const focused = range.to.row === row && range.to.col === col;
  if (focused && p.writing !== null)
    return (
      <td role="gridcell" data-spot={`${row} ${col}`} aria-selected className="tight cell writing">
        <CellInput
          label={`${f.label} on ${r.title}`}
          text={p.writing}
          keep={p.keep}
          leave={p.leave}
        />
      </td>
    );
  return (
    <td
      role="gridcell"
      data-spot={`${row} ${col}`}
      data-cell={cellKey(r, f.name)}
      tabIndex={focused ? 0 : -1}
      aria-selected={selection.has(row, col)}
      className={`tight cell ${c.own ? "own" : "inherited"}${c.edited ? " edited" : ""}`}
      title={c.edited ? "not saved yet" : saySource(c.source, c.doc, p.called)}
      onMouseDown={(e) => {
        if (e.shiftKey) e.preventDefault();
      }}
      onClick={(e) => {
        if (e.ctrlKey || e.metaKey) selection.toggle({ row, col });
        else selection.go({ row, col }, e.shiftKey);
      }}
      onDoubleClick={() => p.write()}
    >
      {c.text || <span className="soft">nothing</span>}
      {c.own && <span className="unseen"> of its own</span>}
    </td>
  );
}
