import Papa from "papaparse";
import type { Schemas } from "../../api/client";
import { partOf } from "../wall/sections";

type Table = Schemas["ValueTable"];
type Row = Schemas["ValueRow"];

/** A place in the table: row and column. */
export interface Spot {
  row: number;
  col: number;
}

/** Edits that are not saved: by cell, what it gets; null takes back what the page says. */
export type Edits = ReadonlyMap<string, string | null>;

export const cellKey = (r: Row, field: string) => `${r.doc}\n${r.address}\n${field}`;

/** The cells between two corners. */
export function between(a: Spot, b: Spot): Spot[] {
  const out: Spot[] = [];
  for (let row = Math.min(a.row, b.row); row <= Math.max(a.row, b.row); row++) {
    for (let col = Math.min(a.col, b.col); col <= Math.max(a.col, b.col); col++)
      out.push({ row, col });
  }
  return out;
}

/** What a cell says and whether the page itself says it, with the edits. */
export function cellOf(
  table: Table,
  rows: Row[],
  edits: Edits,
  at: Spot,
): { text: string; own: boolean; edited: boolean; source: string; doc: string } {
  const row = rows[at.row];
  const cell = row?.cells[at.col];
  const field = table.fields[at.col];
  if (!row || !cell || !field)
    return { text: "", own: false, edited: false, source: "none", doc: "" };
  const edit = edits.get(cellKey(row, field.name));
  if (edit === undefined)
    return {
      text: cell.text,
      own: cell.source === "override" || cell.source === "argument",
      edited: false,
      source: cell.source,
      doc: cell.doc,
    };
  if (edit === null)
    return { text: cell.otherwise, own: false, edited: true, source: "none", doc: "" };
  return { text: edit, own: true, edited: true, source: "override", doc: row.doc };
}

/** The edits with a value for some cells; what a cell says already is no edit. */
export function put(
  table: Table,
  rows: Row[],
  edits: Edits,
  spots: Spot[],
  value: (s: Spot) => string | null,
): Map<string, string | null> {
  const out = new Map(edits);
  for (const s of spots) {
    const row = rows[s.row];
    const field = table.fields[s.col];
    const cell = row?.cells[s.col];
    if (!row || !field || !cell) continue;
    const v = value(s);
    const own = cell.source === "override" || cell.source === "argument";
    const same = v === null ? !own : own && v === cell.text;
    if (same) out.delete(cellKey(row, field.name));
    else out.set(cellKey(row, field.name), v);
  }
  return out;
}

/** The cells that say of their own what would show without that. */
export function idleIn(table: Table, rows: Row[], edits: Edits): Spot[] {
  const out: Spot[] = [];
  rows.forEach((r, row) =>
    r.cells.forEach((c, col) => {
      const field = table.fields[col];
      const own = c.source === "override" || c.source === "argument";
      if (own && c.text === c.otherwise && field && !edits.has(cellKey(r, field.name)))
        out.push({ row, col });
    }),
  );
  return out;
}

/** Whether a page says of its own what a cell says: for the placement, or for all that
 *  asks the page. */
export const ofPage = (source: string) =>
  source === "override" || source === "argument" || source === "page";

/** Whether a text has all words of a filter, or of one of those that commas part. */
export function filtering(filter: string): (text: string) => boolean {
  const ways = filter
    .toLowerCase()
    .split(",")
    .map((w) => w.split(/\s+/).filter(Boolean))
    .filter((w) => w.length > 0);
  return (text) =>
    ways.length === 0 || ways.some((words) => words.every((w) => text.toLowerCase().includes(w)));
}

/** What the table shows below one another: a section of the site, or the row of a number. */
export type Item = { section: string; count: number } | { row: number };

/** Rows in the order of the sections of the site that their pages stand in, and what the
 *  table shows of them. Sections of a single page stand together in front, as on the
 *  wall; where all is one section there are no headings. */
export function bySection(rows: Row[]): { rows: Row[]; items: Item[] } {
  // Of a section that has one page alone, that page; of others, none. The rows of a page follow one
  // another mostly.
  const alone = new Map<string, string>();
  const partAt = new Map<string, string>();
  let last: string | null = null;
  for (const { page } of rows) {
    if (page === last) continue;
    last = page;
    const s = partOf(page, "/");
    partAt.set(page, s);
    alone.set(s, (alone.get(s) ?? page) === page ? page : "");
  }
  const groups = new Map<string, Row[]>([["", []]]);
  let group: Row[] = [];
  last = null;
  for (const r of rows) {
    if (r.page !== last) {
      last = r.page;
      const s = partAt.get(r.page) ?? "";
      const name = alone.get(s) === r.page ? "" : s;
      const list = groups.get(name);
      group = list ?? [];
      if (!list) groups.set(name, group);
    }
    group.push(r);
  }
  const sorted = [...groups.values()].flat();
  const headed = [...groups.values()].filter((g) => g.length > 0).length > 1;
  const items: Item[] = [];
  let row = 0;
  for (const [section, list] of groups) {
    if (headed && list.length > 0) items.push({ section, count: list.length });
    for (let i = 0; i < list.length; i++) items.push({ row: row++ });
  }
  return { rows: sorted, items };
}

/** The chosen cells: a range, and others that were added one by one. */
export function chosenOf(range: { from: Spot; to: Spot }, more: Spot[], rows: number): Spot[] {
  const out = between(range.from, range.to).filter((s) => s.row < rows);
  for (const s of more)
    if (s.row < rows && !out.some((o) => o.row === s.row && o.col === s.col)) out.push(s);
  return out;
}

/** The lines and columns of what was copied from a spreadsheet, which puts a cell of
 *  several lines between quotes. A quote that nothing closes is one of the text. */
export function pasted(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, "\n").replace(/\n$/, "");
  const { data, errors } = Papa.parse<string[]>(lines, { delimiter: "\t", newline: "\n" });
  return errors.some((e) => e.type === "Quotes")
    ? lines.split("\n").map((l) => l.split("\t"))
    : data;
}

/** Edits as the server takes them. */
export function asValues(edits: Edits): Schemas["ValueEdit"][] {
  return [...edits].map(([key, text]) => {
    const [doc = "", address = "", field = ""] = key.split("\n");
    return { doc, address, field, ...(text !== null && { text }) };
  });
}
