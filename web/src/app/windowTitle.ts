import type { Overview } from "../api/client";
import { placeOf } from "../shared/placeOf";

const named: Record<string, string> = {
  blocks: "Blocks",
  scripts: "Scripts",
  pages: "Pages",
  rules: "Rules",
  layouts: "Layouts",
  menus: "Menus",
  files: "Files",
  site: "Site",
  reference: "Reference",
  checks: "Checks",
  review: "Review",
  parts: "Parts",
  words: "Find and replace",
  repeats: "Repeated pieces",
  "roll-out": "Put on pages",
};

/** The title of the window: the thing that is open, its place, and the site. */
export function windowTitle(overview: Overview, path: string, query: URLSearchParams): string {
  const [, , place = "blocks", name] = path.split("/");
  const folder = place === "scripts" ? "shortcodes" : place;
  const doc = query.get("doc") ?? query.get("path") ?? (name && `${folder}/${name}.html`);
  const peek = query.get("peek");
  const seen = overview.pages.find((p) => p.path === peek)?.title;
  return [
    seen,
    doc && placeOf(overview.name, doc, overview).title,
    named[place] ?? place,
    overview.title,
  ]
    .filter(Boolean)
    .join(" · ");
}
