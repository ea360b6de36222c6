import Button from "@mui/material/Button";
import { useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { toCsv } from "./csv";
import { cellOf, idleIn, type Edits, type Spot } from "./grid";

interface Props {
  block: string;
  table: Schemas["ValueTable"];
  rows: Schemas["ValueRow"][];
  edits: Edits;
  filter: string;
  setFilter: (filter: string) => void;
  only: boolean;
  setOnly: (only: boolean) => void;
  change: (value: (s: Spot) => string | null, where: Spot[]) => void;
  read: (file: File | undefined) => Promise<void>;
}

/** What narrows the table down, what changes many of its values at once, and its way out of
 *  the tool and in again. */
export function ValuesBar(p: Props) {
  const { table, rows, edits, change } = p;
  const input = useRef<HTMLInputElement>(null);
  const idleOwn = useMemo(() => idleIn(table, rows, edits), [table, rows, edits]);
  const download = () => {
    const made = URL.createObjectURL(new Blob([toCsv(table)], { type: "text/csv;charset=utf-8" }));
    const link = document.createElement("a");
    link.download = `${p.block}.csv`;
    link.href = made;
    link.click();
    setTimeout(() => URL.revokeObjectURL(made), 60_000); // once it is written
  };
  return (
    <div className="bar">
      <label title="All words; a comma stands for or">
        Filter{" "}
        <input
          className="bar-input"
          value={p.filter}
          onChange={(e) => p.setFilter(e.target.value)}
        />
      </label>
      <button
        type="button"
        className="plain toggle"
        aria-pressed={p.only}
        onClick={() => p.setOnly(!p.only)}
      >
        only what differs
      </button>
      <Replace table={table} rows={rows} edits={edits} change={change} />
      {idleOwn.length > 0 && (
        <button
          type="button"
          className="plain word"
          onClick={() => change(() => null, idleOwn)}
          title="Values of their own that say what the pages would inherit anyway"
        >
          Reset {idleOwn.length} that change nothing
        </button>
      )}
      <span className="right" title="placements">
        {rows.length} of {table.rows.length}
      </span>
      <Button size="small" onClick={download}>
        CSV out
      </Button>
      <Button size="small" onClick={() => input.current?.click()}>
        CSV in
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        aria-label="CSV to read in"
        hidden
        onChange={(e) => {
          void p.read(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
    </div>
  );
}

/** Puts other words in place of some in all values that are shown. */
function Replace({
  table,
  rows,
  edits,
  change,
}: Pick<Props, "table" | "rows" | "edits" | "change">) {
  const [find, setFind] = useState("");
  const [replacement, setReplacement] = useState("");
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
  return (
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
  );
}
