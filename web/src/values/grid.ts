import type { Schemas } from "../api/client";

type Table = Schemas["ValueTable"];
type Row = Schemas["ValueRow"];

/** A place in the table: row and column. */
export interface Spot { row: number; col: number }

/** Edits that are not saved: by cell, what it gets; null takes back what the page says. */
export type Edits = ReadonlyMap<string, string | null>;

export const cellKey = (r: Row, field: string) => `${r.doc}\n${r.address}\n${field}`;

/** The cells between two corners. */
export function between(a: Spot, b: Spot): Spot[] {
  const out: Spot[] = [];
  for (let row = Math.min(a.row, b.row); row <= Math.max(a.row, b.row); row++) {
    for (let col = Math.min(a.col, b.col); col <= Math.max(a.col, b.col); col++) out.push({ row, col });
  }
  return out;
}

/** What a cell says and whether the page itself says it, with the edits. */
export function cellOf(table: Table, rows: Row[], edits: Edits, at: Spot): { text: string; own: boolean; edited: boolean; rung: string; doc: string } {
  const row = rows[at.row];
  const cell = row?.cells[at.col];
  const field = table.fields[at.col];
  if (!row || !cell || !field) return { text: "", own: false, edited: false, rung: "none", doc: "" };
  const edit = edits.get(cellKey(row, field.name));
  if (edit === undefined) return { text: cell.text, own: cell.rung === "override" || cell.rung === "argument", edited: false, rung: cell.rung, doc: cell.doc };
  if (edit === null) return { text: cell.otherwise, own: false, edited: true, rung: "none", doc: "" };
  return { text: edit, own: true, edited: true, rung: "override", doc: row.doc };
}

/** The edits with a value for some cells; what a cell says already is no edit. */
export function put(table: Table, rows: Row[], edits: Edits, spots: Spot[], value: (s: Spot) => string | null): Map<string, string | null> {
  const out = new Map(edits);
  for (const s of spots) {
    const row = rows[s.row];
    const field = table.fields[s.col];
    const cell = row?.cells[s.col];
    if (!row || !field || !cell) continue;
    const v = value(s);
    const own = cell.rung === "override" || cell.rung === "argument";
    const same = v === null ? !own : own && v === cell.text;
    if (same) out.delete(cellKey(row, field.name));
    else out.set(cellKey(row, field.name), v);
  }
  return out;
}

/** The cells that say of their own what would show without that. */
export function idleIn(table: Table, rows: Row[], edits: Edits): Spot[] {
  return rows.flatMap((r, row) => r.cells.flatMap((c, col) => {
    const field = table.fields[col];
    const own = c.rung === "override" || c.rung === "argument";
    return own && c.text === c.otherwise && field && !edits.has(cellKey(r, field.name)) ? [{ row, col }] : [];
  }));
}

/** The lines and columns of what was copied from a spreadsheet. */
export function pasted(text: string): string[][] {
  return text.replace(/\r\n?/g, "\n").replace(/\n$/, "").split("\n").map((l) => l.split("\t"));
}

/** Edits as the server takes them. */
export function asValues(edits: Edits): Schemas["ValueEdit"][] {
  return [...edits].map(([key, text]) => {
    const [doc = "", address = "", field = ""] = key.split("\n");
    return { doc, address, field, ...(text !== null && { text }) };
  });
}
