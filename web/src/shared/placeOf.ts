import type { Overview } from "../api/client";

/** A document as a person knows it: what it is called, and the address of its place. */
export interface Known {
  title: string;
  to: string;
}

type Named = Pick<Overview, "blocks" | "pages" | "drafts" | "titles">;

/** Where one works on a document. */
export function placeOf(site: string, path: string, overview: Named): Known {
  const [folder = "", file = ""] = path.split(/\/(.*)/);
  const name = file.replace(/\.\w+$/, "");
  const at = (place: string, title = name) => ({ title, to: `/${site}/${place}` });
  switch (folder) {
    case "blocks":
      return at(`blocks/${name}`, overview.blocks.find((b) => b.name === name)?.title ?? name);
    case "pages":
      return at(
        `pages?doc=${encodeURIComponent(path)}`,
        [...overview.pages, ...overview.drafts].find((p) => p.doc === path)?.title ?? name,
      );
    case "rules":
    case "layouts":
    case "menus":
      return at(`${folder}/${name}`, overview.titles[path] ?? name);
    case "shortcodes":
      return at(`scripts/${name}`);
    case "assets":
    case "files":
      return at(`files?path=${encodeURIComponent(path)}`, file);
    case "site.yaml":
      return at("site", "The site's values");
  }
  return { title: path, to: `/${site}` };
}

/** The places of some documents, each once. */
export function placesOf(site: string, paths: string[], overview: Named): Known[] {
  const out = new Map<string, Known>();
  for (const p of paths) {
    const known = placeOf(site, p, overview);
    out.set(known.to, known);
  }
  return [...out.values()];
}
