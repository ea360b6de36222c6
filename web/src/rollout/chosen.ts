import type { Page, Rolled } from "../api/client";
import type { State } from "../shared/states";

/** The documents of the pages that a target means. */
export function docsOf(target: string, pages: Page[], home: string): string[] {
  const arg = target.slice(target.indexOf(":") + 1);
  const means = (p: Page) => {
    if (target === "all") return true;
    if (target === "home") return p.path === home;
    if (target.startsWith("under:")) return p.path.startsWith(arg);
    if (target.startsWith("layout:")) return p.layout === arg;
    return p.path === arg;
  };
  return pages.filter(means).map((p) => p.doc);
}

/** The chosen documents with some more, or without them where all of them are chosen. */
export function withOrWithout(chosen: ReadonlySet<string>, docs: string[]): Set<string> {
  const all = docs.length > 0 && docs.every((d) => chosen.has(d));
  const out = new Set(chosen);
  for (const d of docs) {
    if (all) out.delete(d);
    else out.add(d);
  }
  return out;
}

const states: Record<Rolled["outcome"], State> = {
  added: "change",
  removed: "change",
  there: "same",
  "not-there": "same",
  "no-region": "hidden",
};

/** What a roll-out does to each page, for the wall. */
export function rolledStates(
  pages: Page[],
  chosen: ReadonlySet<string>,
  rolled: Rolled[] | undefined,
): State[] {
  const of = new Map((rolled ?? []).map((r) => [r.doc, states[r.outcome]]));
  return pages.map((p) => (chosen.has(p.doc) ? (of.get(p.doc) ?? "linked") : "none"));
}

/** How many pages have each outcome, as a sentence. */
export function tally(rolled: Rolled[], verb: "get" | "lose"): string {
  const count = (o: Rolled["outcome"]) => rolled.filter((r) => r.outcome === o).length;
  const pages = (n: number) => `${n} ${n === 1 ? "page" : "pages"}`;
  const does = verb === "get" ? count("added") : count("removed");
  const out = [`${pages(does)} ${does === 1 ? `${verb}s` : verb} it.`];
  if (count("there"))
    out.push(`${pages(count("there"))} ${count("there") === 1 ? "has" : "have"} it already.`);
  if (count("not-there"))
    out.push(
      `${pages(count("not-there"))} ${count("not-there") === 1 ? "does" : "do"} not have it in the own text.`,
    );
  if (count("no-region"))
    out.push(
      `${pages(count("no-region"))} ${count("no-region") === 1 ? "lacks" : "lack"} the region.`,
    );
  return out.join(" ");
}
