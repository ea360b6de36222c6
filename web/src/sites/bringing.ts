import { strToU8, zip, type AsyncZippable } from "fflate";
import type { Placed } from "../shared/dropped";
import { nameOf } from "../shared/nameSite";

/** A site that somebody brings: what it is to be called, its folder as a zip, and what stood
 *  beside it in the folder and is none of it. */
export interface Brought {
  name: string;
  zip: Blob;
  left: string[];
}

/** Whether a name of a file is that of a zip. */
export const isZip = (name: string) => /\.zip$/i.test(name);

/** What somebody chose or dropped, as a site: one zip as it is, or the files of a folder packed. */
export async function brought(files: Placed[]): Promise<Brought> {
  const [first] = files;
  if (!first) throw new Error("Nothing was in it. Bring the folder of a site, or a zip of one.");
  if (files.length === 1 && isZip(first.path))
    return { name: nameOf(first.file.name.replace(/\.zip$/i, "")), zip: first.file, left: [] };
  const folder = first.path.split("/")[0] ?? "";
  const tree: AsyncZippable = {};
  const whole = files.some((f) => f.path === `${folder}/site.yaml`);
  const shelf = whole || !files.some((f) => /\.x?html?$/i.test(f.path) && foreign(f.path));
  const left = new Set<string>();
  for (const { path, file } of files) {
    if (shelf ? hidden(path) : others(path)) continue;
    const beside = whole ? foreign(path) : "";
    if (beside) left.add(beside);
    else tree[path] = new Uint8Array(await file.arrayBuffer());
  }
  if (Object.keys(tree).length === 0) tree["site.yaml"] = strToU8("");
  const packed = await new Promise<Uint8Array<ArrayBuffer>>((done, failed) =>
    zip(tree, { level: 1 }, (e, bytes) => (e ? failed(e) : done(bytes))),
  );
  return {
    name: nameOf(folder),
    zip: new Blob([packed], { type: "application/zip" }),
    left: [...left].sort(),
  };
}

/** Whether a file stands in a folder in which other programs keep what is none of a web site. */
export const others = (path: string) =>
  /(^|\/)(\.git|\.hg|\.svn|\.bzr|CVS|\.shelf|__MACOSX|\.DS_Store)(\/|$)/.test(path);

/** Whether a file is none of a site: its name, or that of a folder around it, begins with a dot. */
export function hidden(path: string): boolean {
  const within = path.split("/").slice(1);
  return (
    within[0] !== "assets" && within[0] !== "files" && within.some((part) => part.startsWith("."))
  );
}

const folders = [
  "layouts",
  "blocks",
  "shortcodes",
  "rules",
  "menus",
  "pages",
  "history",
  "assets",
  "files",
];

/** What of a path is none of the site that stands in its first folder: a README.md, or a folder of
 *  another name; "" where it belongs to the site. */
export function foreign(path: string): string {
  const [, top = "", ...more] = path.split("/");
  if (more.length === 0) return top === "site.yaml" ? "" : top;
  return folders.includes(top) ? "" : `${top}/`;
}
