/** A file and where it stands below what was brought. */
export interface Placed {
  path: string;
  file: File;
}

/** The files that were dropped, those in folders with the way to them. */
export async function dropped(data: DataTransfer): Promise<Placed[]> {
  const entries = Array.from(data.items)
    .map((i) => i.webkitGetAsEntry())
    .filter((e) => e !== null);
  const out: Placed[] = [];
  for (const e of entries) await walk(e, "", out);
  return out;
}

async function walk(entry: FileSystemEntry, above: string, out: Placed[]): Promise<void> {
  const path = above + entry.name;
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) =>
      (entry as FileSystemFileEntry).file(done, failed),
    );
    out.push({ path, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    // A reader gives some of a folder at a time.
    const some = await new Promise<FileSystemEntry[]>((done, failed) =>
      reader.readEntries(done, failed),
    );
    if (some.length === 0) return;
    for (const e of some) await walk(e, `${path}/`, out);
  }
}

/** The files of a folder that was chosen. */
export const chosen = (list: FileList): Placed[] =>
  Array.from(list, (file) => ({ path: file.webkitRelativePath || file.name, file }));
