import type { Operation, Page } from "../api/client";
import type { Repeat, RepeatedPiece, RepeatField } from "../api/repeats";
import type { State } from "../shared/states";

/** What is decided of a piece before it becomes a block. */
export interface Decided {
  title: string;
  /** Documents of pages that keep their own markup. */
  leave: string[];
  /** Other names of fields, by those that were found. */
  rename: Record<string, string>;
  /** Other types of fields, by the names that were found. */
  types: Record<string, string>;
  /** Fields, by the names that were found, in whose place what most say stands. */
  drop: string[];
}

export const undecided: Decided = { title: "", leave: [], rename: {}, types: {}, drop: [] };

/** What differs from what was found. */
const changed = (all: Record<string, string>, found: (name: string) => string) =>
  Object.fromEntries(Object.entries(all).filter(([name, to]) => to !== "" && to !== found(name)));

/** The names that fields get, each of them with how many of them would have it. */
export function namesOf(fields: RepeatField[], d: Decided): Map<string, number> {
  const out = new Map<string, number>();
  for (const f of fields) {
    if (d.drop.includes(f.name)) continue;
    const name = d.rename[f.name] || f.name;
    out.set(name, (out.get(name) ?? 0) + 1);
  }
  return out;
}

/** The operation that makes blocks of pieces, in the order in which they are listed; null where none is
 *  chosen. */
export function makeBlocks(
  pieces: Repeat[],
  chosen: ReadonlySet<string>,
  decided: Readonly<Record<string, Decided>>,
): (Operation & { operation: "make-blocks" }) | null {
  const wanted = pieces
    .filter((p) => chosen.has(p.id))
    .map((p) => {
      const d = decided[p.id] ?? undecided;
      const rename = changed(d.rename, (name) => name);
      const types = changed(d.types, (name) => p.fields.find((f) => f.name === name)?.type ?? "");
      return {
        id: p.id,
        ...(d.title.trim() && { title: d.title.trim() }),
        ...(d.leave.length > 0 && { leave: d.leave }),
        ...(Object.keys(rename).length > 0 && { rename }),
        ...(Object.keys(types).length > 0 && { types }),
        ...(d.drop.length > 0 && { drop: d.drop }),
      };
    });
  return wanted.length > 0 ? { operation: "make-blocks", pieces: wanted } : null;
}

/** The operation that makes a layout of two pieces: the one that comes first on its page, and the other. */
export function makeLayout(
  pieces: Repeat[],
  chosen: ReadonlySet<string>,
): (Operation & { operation: "make-layout" }) | null {
  const [top, bottom] = pieces
    .filter((p) => chosen.has(p.id))
    .sort((a, b) => a.example.from - b.example.from);
  return chosen.size === 2 && top && bottom
    ? { operation: "make-layout", top: top.id, bottom: bottom.id }
    : null;
}

/** On which pages a piece stands: as the others, or with something that no field can hold. */
export function statesOfPiece(pages: Page[], piece: RepeatedPiece): State[] {
  const has = new Set(piece.docs);
  const odd = new Set(piece.odd.map((p) => p.doc));
  return pages.map((p) => (has.has(p.doc) ? "linked" : odd.has(p.doc) ? "copy" : "none"));
}

/** Bytes in a few digits. */
export function sized(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 1e6) return `${Math.round(bytes / 1000).toLocaleString("en")} kB`;
  return `${(bytes / 1e6).toFixed(1)} MB`;
}

export function counted(n: number, what: string): string {
  return `${n.toLocaleString("en")} ${what}${n === 1 ? "" : "s"}`;
}

/** What is said of a piece in the list. */
export function aboutPiece(p: Repeat): string {
  const fields = p.fields.filter((f) => !f.spacing).length;
  const where =
    p.places === p.pages
      ? `on ${counted(p.pages, "page")}`
      : `${counted(p.places, "place")} on ${counted(p.pages, "page")}`;
  const differ = fields === 0 ? "the same everywhere" : counted(fields, "field");
  return `${where}, ${differ}, saves ${sized(Math.max(p.bytes, 0))}`;
}

/** A value as one reads it in a cell: on one line. */
export function cellText(value: string | null | undefined): string {
  return value == null ? "" : value.replace(/\s+/g, " ").trim();
}
