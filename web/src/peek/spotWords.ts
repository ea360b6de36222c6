import type { Effect } from "../api/client";

/** What becomes of a placement, after its title: Footer changes. */
export const effectWords: Record<Effect, string> = {
  added: "added",
  removed: "removed",
  changes: "changed",
  held: "keeps its own value",
  copied: "is a copy and stays",
  hidden: "not shown",
  same: "unchanged",
  untouched: "unchanged",
};

/** Where a placement stands, in words: header/rule:top/menu~1/item~2/badge~1 is in the header menu. */
export function spotWords(address: string, titles: ReadonlyMap<string, string>): string {
  const [region = "", ...rest] = address.split("/");
  const around = rest.slice(0, -1).filter((part) => !/^item~\d+$/.test(part));
  const last = around.at(-1);
  if (last === undefined) return `in ${region}`;
  if (/^menu~\d+$/.test(last)) return `in the ${region} menu`;
  if (last.startsWith("rule:")) return `in ${region}, by rule ${last.slice("rule:".length)}`;
  const name = last.replace(/~\d+$/, "");
  return `in ${region}, inside ${titles.get(name) ?? name}`;
}
