import type { BlockSummary } from "../api/client";

/** What the shelf is sorted by, within its categories and, but for titles, the categories too. */
export type By = "title" | "use" | "change";

/** How the shelf stands, kept by the browser for each site. */
export interface Kept {
  by: By;
  pictures: boolean;
  folded: string[];
}

const usual: Kept = { by: "title", pictures: false, folded: [] };
const key = (site: string) => `shelf ${site}`;

/** What is kept of a site's shelf. */
export function keptShelf(site: string): Kept {
  try {
    const kept = JSON.parse(localStorage.getItem(key(site)) ?? "{}") as Partial<Kept>;
    return {
      by: kept.by === "use" || kept.by === "change" ? kept.by : "title",
      pictures: kept.pictures === true,
      folded: Array.isArray(kept.folded) ? kept.folded.filter((f) => typeof f === "string") : [],
    };
  } catch {
    return usual; // what another version kept, or a hand
  }
}

export function keepShelf(site: string, kept: Kept) {
  localStorage.setItem(key(site), JSON.stringify(kept));
}

/** A category with its blocks. */
export type Plank = [category: string, blocks: BlockSummary[]];

// What frames every page comes first.
const rank = (category: string) => (category === "Frame" ? 0 : 1);

const larger: Record<Exclude<By, "title">, (b: BlockSummary) => number> = {
  use: (b) => b.pages,
  change: (b) => b.changed,
};

/** The blocks that a filter leaves, by category. Words of the filter stand in their titles, names or
 *  categories, in any order. */
export function planksOf(blocks: BlockSummary[], filter: string, by: By): Plank[] {
  const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
  const planks = new Map<string, BlockSummary[]>();
  for (const b of blocks) {
    const said = `${b.title} ${b.name} ${b.category}`.toLowerCase();
    if (!words.every((w) => said.includes(w))) continue;
    const c = b.category || "Other";
    const list = planks.get(c);
    if (list) list.push(b);
    else planks.set(c, [b]);
  }
  const out = [...planks];
  if (by === "title") {
    const order = new Intl.Collator(undefined, { numeric: true }).compare;
    for (const [, list] of out) list.sort((a, b) => order(a.title, b.title));
    return out.sort(([a], [b]) => rank(a) - rank(b) || order(a, b));
  }
  const of = larger[by];
  const most = (list: BlockSummary[]) => Math.max(...list.map(of));
  for (const [, list] of out) list.sort((a, b) => of(b) - of(a));
  return out.sort(([, a], [, b]) => most(b) - most(a));
}
