import type { Layout, Page } from "../../api/client";

/** A target of a rule in words: under:/ports/ is all pages under /ports/. */
export function targetWords(target: string, layouts: Layout[] = []): string {
  const colon = target.indexOf(":");
  const kind = colon < 0 ? target : target.slice(0, colon);
  const arg = target.slice(colon + 1);
  switch (kind) {
    case "all":
      return "all pages";
    case "home":
      return "the home page";
    case "under":
      return `all under ${arg}`;
    case "page":
      return `the page ${arg}`;
    case "layout":
      return `pages of the type ${layouts.find((l) => l.name === arg)?.title ?? arg}`;
    case "tag":
      return `pages tagged ${arg}`;
  }
  return target;
}

/** Targets with one more, or without it if it is among them. All pages and anything
 *  narrower take each other's place. */
export function toggled(list: string[], target: string, widest = "all"): string[] {
  if (list.includes(target)) return list.filter((t) => t !== target);
  if (target === widest) return [target];
  return [...list.filter((t) => t !== widest), target];
}

/** A row of the tree of targets: what it stands for, how deep, and in words. */
export interface Row {
  target: string;
  title: string;
  detail: string;
  depth: number;
  pages: number;
}

/** Everything that a rule can name: all, home, types of pages, branches and pages. */
export function targetRows(
  pages: Page[],
  layouts: Layout[],
  home: string,
  tags: string[] = [],
): Row[] {
  const out: Row[] = [
    { target: "all", title: "All pages", detail: "", depth: 0, pages: pages.length },
    { target: "home", title: "The home page", detail: home, depth: 0, pages: 1 },
    ...layouts.map((l) => ({
      target: `layout:${l.name}`,
      title: l.title,
      detail: "page type",
      depth: 0,
      pages: pages.filter((p) => p.layout === l.name).length,
    })),
    ...tags.map((t) => ({ target: `tag:${t}`, title: t, detail: "tag", depth: 0, pages: 0 })),
  ];
  const counts = new Map<string, number>();
  for (const p of pages) for (const b of branches(p.path)) counts.set(b, (counts.get(b) ?? 0) + 1);
  const told = new Set<string>();
  for (const p of [...pages].sort((a, b) => (a.path < b.path ? -1 : 1))) {
    for (const b of branches(p.path)) {
      if (told.has(b) || (counts.get(b) ?? 0) < 2) continue;
      told.add(b);
      out.push({
        target: `under:${b}`,
        title: `All under ${b}`,
        detail: "",
        depth: b.split("/").length - 3,
        pages: counts.get(b) ?? 0,
      });
    }
    const depth = p.path.split("/").filter(Boolean).length;
    out.push({
      target: `page:${p.path}`,
      title: p.title,
      detail: p.path,
      depth: Math.max(depth - (told.has(p.path) ? 0 : 1), 0),
      pages: 1,
    });
  }
  return out;
}

/** The branches that an address stands in: /a/b/ is in /a/b/ and /a/. */
function branches(path: string): string[] {
  const parts = path.split("/").slice(1, -1);
  return parts.map((_, i) => `/${parts.slice(0, i + 1).join("/")}/`);
}
