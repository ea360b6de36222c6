import type { Page } from "../../api/client";

/** Pages whose addresses begin alike. */
export interface Section {
  /** What their addresses begin with; for those that stand in no section of their own, what the
   *  addresses of all do. */
  prefix: string;
  name: string;
  pages: number[]; // positions in the list of pages
}

/** The first part of a page's address behind what all begin with; "" where no other follows it. */
export function partOf(path: string, within: string): string {
  const end = path.indexOf("/", within.length);
  return end < 0 ? "" : path.slice(within.length, end);
}

/** What a section is called, by the last part of its address. */
export function titleOf(prefix: string): string {
  const part = prefix.split("/").at(-2) ?? "";
  return part === "" ? "Home" : part.charAt(0).toUpperCase() + part.slice(1).replaceAll("-", " ");
}

/** The sections of a site, or of one of its sections, in their order. Sections of a single page
 *  are one with the page above them. */
export function sectionsOf(pages: Page[], within = "/"): Section[] {
  const parts = new Map<string, number[]>();
  pages.forEach((p, i) => {
    if (!p.path.startsWith(within)) return;
    const part = partOf(p.path, within);
    const list = parts.get(part);
    if (list) list.push(i);
    else parts.set(part, [i]);
  });
  const many = parts.size > 3 || within !== "/";
  const above = parts.get("") ?? [];
  for (const [part, list] of [...parts]) {
    if (part === "" || list.length > 1 || !many) continue;
    parts.delete(part);
    above.push(...list);
  }
  if (above.length > 0) parts.set("", above);
  return [...parts]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([part, list]) => {
      const prefix = part === "" ? within : `${within}${part}/`;
      return { prefix, name: titleOf(prefix), pages: list };
    });
}

/** As much of a text as there is room for. */
export function fitted(text: string, room: number, measure: (text: string) => number): string {
  if (measure(text) <= room) return text;
  const letters = Array.from(text);
  let [fits, ends] = [0, letters.length];
  while (fits + 1 < ends) {
    const half = (fits + ends) >> 1;
    if (measure(`${letters.slice(0, half).join("").trimEnd()}…`) <= room) fits = half;
    else ends = half;
  }
  return `${letters.slice(0, fits).join("").trimEnd()}…`;
}

/** Names as there is room for them; those that would read alike, since they begin alike, from
 *  where they differ. */
export function apart(
  names: string[],
  room: (i: number) => number,
  measure: (text: string) => number,
): string[] {
  const out = names.map((n, i) => fitted(n, room(i), measure));
  const alike = new Map<string, number[]>();
  out.forEach((label, i) => {
    if (label !== names[i]) alike.set(label, [...(alike.get(label) ?? []), i]);
  });
  for (const group of alike.values()) {
    if (group.length < 2) continue;
    const [first = ""] = group.map((i) => names[i] ?? "");
    let same = first.length;
    for (const i of group) {
      const name = names[i] ?? "";
      while (!name.startsWith(first.slice(0, same))) same--;
    }
    const word = first.lastIndexOf(" ", same) + 1;
    const from = same - word < 6 ? word : same;
    for (const i of group) {
      const name = names[i] ?? "";
      const begin = fitted(name, room(i) * 0.35, measure);
      out[i] = begin + fitted(name.slice(from), room(i) - measure(begin), measure);
    }
  }
  return out;
}
