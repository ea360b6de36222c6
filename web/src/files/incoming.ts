import type { Schemas } from "../api/client";

export type SiteFile = Schemas["SiteFile"];

/** A file that is to be put on the site: what becomes of one that stands there already. */
export interface Incoming {
  file: File;
  path: string;
  /** Where a file of its name stands already: replaced, kept beside it, or left as it is. */
  clash: "" | "replace" | "beside" | "leave";
}

/** How large a file may be, in bytes; how many are sent at once. */
export const maxFile = 40 << 20;
const atOnce = 50 << 20;

/** The name of a file as it can stand on a site. */
export function cleaned(name: string): string {
  return (
    name
      .normalize("NFC")
      // eslint-disable-next-line no-control-regex -- no name has any
      .replace(/[\\:*?"<>|#%\u0000-\u001f\u007f]+/g, "-")
      .replace(/\s+/g, "-")
  );
}

/** Files as they come in, below a folder; those of a name that is taken are asked about. */
export function incoming(
  files: { path: string; file: File }[],
  into: string,
  there: readonly SiteFile[],
): Incoming[] {
  const taken = new Set(there.map((f) => f.path));
  return files.map(({ path, file }) => {
    const to = into + path.split("/").map(cleaned).join("/");
    const clash = taken.has(to) ? "replace" : "";
    taken.add(to);
    return { file, path: to, clash };
  });
}

/** A path beside one that is taken: x.png becomes x-2.png. */
export function beside(path: string, taken: ReadonlySet<string>): string {
  const [, stem = path, ext = ""] = /^(.*?)((?:\.[^./]+)?)$/.exec(path) ?? [];
  for (let n = 2; ; n++) if (!taken.has(`${stem}-${n}${ext}`)) return `${stem}-${n}${ext}`;
}

/** What is sent of what comes in, in the order in which it came, split where it is much. */
export function batches(list: Incoming[], there: readonly SiteFile[]) {
  const taken = new Set([...there.map((f) => f.path), ...list.map((i) => i.path)]);
  const hashes = new Map(there.map((f) => [f.path, f.hash]));
  const out: { path: string; before: string; file: File }[][] = [];
  let size = Infinity;
  const last = new Map<string, number>(); // where two have one name, the later one counts
  list.forEach((i, n) => last.set(i.path, n));
  list.forEach((i, n) => {
    if (i.clash === "leave" || (i.clash !== "beside" && last.get(i.path) !== n)) return;
    const path = i.clash === "beside" ? beside(i.path, taken) : i.path;
    taken.add(path);
    if (size + i.file.size > atOnce) {
      out.push([]);
      size = 0;
    }
    size += i.file.size;
    out.at(-1)?.push({ path, before: hashes.get(path) ?? "", file: i.file });
  });
  return out;
}

/** What speaks against a file, in words; "" where nothing does. */
export async function wrongWith({ file }: Incoming): Promise<string> {
  if (file.size > maxFile)
    return `has ${Math.ceil(file.size / (1 << 20))} MB; a file can have ${maxFile >> 20} MB`;
  if (/\.(png|jpe?g|gif|webp|avif)$/i.test(file.name)) {
    const ok = await createImageBitmap(file).then(
      (b) => {
        b.close();
        return true;
      },
      () => false,
    );
    if (!ok) return "is no picture that a browser can show";
  }
  return "";
}

/** What is worth knowing of a file before it is put there; "" where nothing is. */
export async function worthKnowing({ file }: Incoming): Promise<string> {
  if (!/\.svg$/i.test(file.name) || file.size > 1 << 20) return "";
  return /<script|\son[a-z]+\s*=|javascript:/i.test(await file.text())
    ? "holds a script, which runs where somebody opens it by its address"
    : "";
}

/** A size in words. */
export function sized(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
  return `${(bytes / 1e6).toFixed(1)} MB`;
}
