import type { Schemas } from "../api/client";
import type { WordsSpot } from "../api/words";

export type DocumentClass = Schemas["DocumentClass"];

/** What tells a spot from all others, as long as its document says what it did. */
export const nameOfSpot = (s: WordsSpot) => `${s.n} ${s.doc}`;

/** The spots that stay as they are, as the operation names them. */
export function leftOut(spots: WordsSpot[], without: ReadonlySet<string>) {
  return spots.filter((s) => without.has(nameOfSpot(s))).map(({ doc, n }) => ({ doc, n }));
}

/** A document of the list, or one of its spots. */
export type Line = { doc: string; spots: WordsSpot[] } | WordsSpot;

/** The list: each document before its spots. */
export function linesOf(spots: WordsSpot[]): Line[] {
  const out: Line[] = [];
  let group: { doc: string; spots: WordsSpot[] } | undefined;
  for (const s of spots) {
    if (group?.doc !== s.doc) out.push((group = { doc: s.doc, spots: [] }));
    group.spots.push(s);
    out.push(s);
  }
  return out;
}

const kinds: Record<DocumentClass, [one: string, many: string]> = {
  page: ["page", "pages"],
  block: ["block", "blocks"],
  layout: ["layout", "layouts"],
  menu: ["menu", "menus"],
  rule: ["rule", "rules"],
  site: ["site's values", "site's values"],
  style: ["style", "styles"],
  behaviour: ["behaviour", "behaviours"],
  shortcode: ["script", "scripts"],
  asset: ["asset", "assets"],
  file: ["file", "files"],
};

/** How many documents of a kind, in words. */
export function inWords(c: DocumentClass, documents: number): string {
  if (c === "site") return "the site's values";
  return `${documents.toLocaleString("en")} ${kinds[c][documents === 1 ? 0 : 1]}`;
}

/** What a spot belongs to, in words; "" of a text. */
export function belongs(s: WordsSpot): string {
  const parts = s.of.split(" › ");
  const last = parts.at(-1) ?? "";
  if (s.kind === "attribute") return `attribute ${last}`;
  if (s.kind !== "value") return "";
  if (parts[0] === "overrides" && parts.length > 2) return `${last} at ${parts[1] ?? ""}`;
  if (parts[0] === "copies" && parts.length > 1) return `copy at ${parts[1] ?? ""}`;
  if (parts[0] === "fields" && parts.length > 2) return `${last} of the field ${parts[1] ?? ""}`;
  if (parts[0] === "items") return `entry: ${last}`;
  return parts.length === 2 ? `${last} of ${parts[0] ?? ""}` : last;
}
