import { strToU8, zip, type AsyncZippable } from "fflate";
import type { Placed } from "../shared/dropped";
import { nameOf } from "../shared/nameSite";

/** A site that somebody brings: what it is to be called, and its shelf folder as a zip. */
export interface Brought {
  name: string;
  zip: Blob;
}

/** Whether a name of a file is that of a zip. */
export const isZip = (name: string) => /\.zip$/i.test(name);

/** What somebody chose or dropped, as a site: one zip as it is, or the files of a folder packed. */
export async function brought(files: Placed[]): Promise<Brought> {
  const [first] = files;
  if (!first) throw new Error("Nothing was in it. Bring a shelf folder, or a zip of one.");
  if (files.length === 1 && isZip(first.path))
    return { name: nameOf(first.file.name.replace(/\.zip$/i, "")), zip: first.file };
  const folder = first.path.split("/")[0] ?? "";
  const tree: AsyncZippable = {};
  for (const { path, file } of files)
    if (!hidden(path)) tree[path] = new Uint8Array(await file.arrayBuffer());
  if (Object.keys(tree).length === 0) tree["site.yaml"] = strToU8("");
  const packed = await new Promise<Uint8Array<ArrayBuffer>>((done, failed) =>
    zip(tree, { level: 1 }, (e, bytes) => (e ? failed(e) : done(bytes))),
  );
  return { name: nameOf(folder), zip: new Blob([packed], { type: "application/zip" }) };
}

/** Whether a file is none of a site: its name, or that of a folder around it, begins with a dot. */
export function hidden(path: string): boolean {
  const within = path.split("/").slice(1);
  return within[0] !== "assets" && within.some((part) => part.startsWith("."));
}
