import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Operation, Overview } from "../api/client";
import { useFiles, useFileUses, useOverview, useSite } from "../api/queries";
import { chosen, dropped, type Placed } from "../shared/dropped";
import { IdleBar } from "../shared/EditBar";
import { tell } from "../shared/notices";
import { standing, type State } from "../shared/states";
import { usePending } from "../shared/usePending";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { Arriving } from "./Arriving";
import { FileBench } from "./FileBench";
import { incoming, sized, type Incoming, type SiteFile } from "./incoming";

/** What is published as it is: pictures and other files, under assets and at the site's root. */
export function FilesPlace() {
  const overview = useOverview();
  const files = useFiles();
  if (files.error)
    return (
      <p className="empty" role="alert">
        {files.error.message}
      </p>
    );
  return overview.data && files.data ? <Sheet overview={overview.data} files={files.data} /> : null;
}

function Sheet({ overview, files }: { overview: Overview; files: SiteFile[] }) {
  const site = useSite();
  const go = useNavigate();
  const [params, setParams] = useSearchParams();
  const path = params.get("path") ?? "";
  const file = files.find((f) => f.path === path);
  const uses = useFileUses(file?.path ?? "");
  const [into, setInto] = useState("assets/");
  const [coming, setComing] = useState<Incoming[]>([]);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const open = useCallback(
    (to: string) =>
      setParams((p) => {
        if (to) p.set("path", to);
        else p.delete("path");
        return p;
      }),
    [setParams],
  );
  const pending = usePending(
    useCallback(
      (o: Operation) => {
        if (o.operation === "move-file")
          void go(`/${site}/files?path=${encodeURIComponent(o.to)}`, { replace: true });
        if (o.operation === "delete-file") void go(`/${site}/files`, { replace: true });
      },
      [go, site],
    ),
  );
  const idle = useMemo<WallSubject>(
    () => ({
      question: "shows",
      about: file ? `Which pages show ${file.url}?` : "Choose a file",
      states: uses.data ? standing(uses.data.states) : overview.pages.map((): State => "none"),
      against: "live",
    }),
    [file, uses.data, overview.pages],
  );
  useWallSubject(pending.subject ?? idle);
  const take = (list: Placed[]) => setComing((old) => [...old, ...incoming(list, into, files)]);
  // Wherever the focus is: before anything was pressed it is on the page itself.
  const pasted = useEffectEvent((e: ClipboardEvent) => {
    if (!e.clipboardData?.files.length) return;
    e.preventDefault();
    take(Array.from(e.clipboardData.files, (f) => ({ path: f.name, file: f })));
  });
  useEffect(() => {
    const paste = (e: ClipboardEvent) => pasted(e);
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
  return (
    <>
      <div className="subject">
        <h1>Files</h1>
        <span className="soft">
          {files.length} {files.length === 1 ? "file" : "files"},{" "}
          {sized(files.reduce((n, f) => n + f.size, 0))}
        </span>
      </div>
      {pending.bar ?? (
        <IdleBar words="Drop files here, or paste a picture. What stands in assets is published under /assets/, the rest at the site's root, as robots.txt." />
      )}
      <div
        className={over ? "halves over" : "halves"}
        onDragOver={(e) => {
          if (!e.dataTransfer.types.includes("Files")) return;
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          dropped(e.dataTransfer).then(take, (err: unknown) =>
            tell((err as Error).message, "error"),
          );
        }}
      >
        <div className="panel">
          <div className="bar">
            <TextField
              select
              size="small"
              label="Put files into"
              value={into}
              onChange={(e) => setInto(e.target.value)}
              sx={{ width: 240, my: "6px" }}
            >
              <MenuItem value="assets/">assets, as /assets/…</MenuItem>
              <MenuItem value="files/">the site&apos;s root, as /…</MenuItem>
            </TextField>
            <Button
              variant="contained"
              sx={{ marginLeft: "auto" }}
              onClick={() => input.current?.click()}
            >
              Choose files
            </Button>
            <input
              ref={input}
              type="file"
              multiple
              hidden
              aria-label="Files to put on the site"
              onChange={(e) => {
                if (e.target.files) take(chosen(e.target.files));
                e.target.value = "";
              }}
            />
          </div>
          {coming.length > 0 && (
            <Arriving coming={coming} set={setComing} files={files} done={open} />
          )}
          <FileList files={files} path={path} open={open} origin={overview.site_origin} />
        </div>
        <FileBench
          key={file?.path ?? ""}
          file={file}
          uses={uses.data}
          overview={overview}
          ask={pending.ask}
          replace={(f) => file && setComing([{ file: f, path: file.path, clash: "replace" }])}
        />
      </div>
    </>
  );
}

/** How many files are listed; words narrow them. */
const most = 300;

function FileList({
  files,
  path,
  open,
  origin,
}: {
  files: SiteFile[];
  path: string;
  open: (path: string) => void;
  origin: string;
}) {
  const [words, setWords] = useState("");
  const found = useMemo(() => {
    const all = words.toLowerCase().split(/\s+/).filter(Boolean);
    return files.filter((f) => all.every((w) => f.path.toLowerCase().includes(w)));
  }, [files, words]);
  return (
    <>
      <div className="shelf-filter files-filter">
        <input
          aria-label="Filter the files"
          placeholder="Filter the files"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </div>
      <ul className="scroll file-list" aria-label="Files">
        {found.slice(0, most).map((f) => (
          <li key={f.path}>
            <button
              type="button"
              className="plain"
              aria-current={f.path === path}
              onClick={() => open(f.path)}
            >
              <Thumb file={f} origin={origin} />
              <span>
                <b>{f.path.slice(f.path.lastIndexOf("/") + 1)}</b> <code>{f.url}</code>
              </span>
              <span className="soft">
                {f.width > 0 && `${f.width} × ${f.height}, `}
                {sized(f.size)}
              </span>
            </button>
          </li>
        ))}
        {found.length === 0 && (
          <li className="empty">
            {files.length === 0
              ? "No files yet. Drop some here: a logo, a favicon.ico, a robots.txt."
              : "No file is called that."}
          </li>
        )}
        {found.length > most && (
          <li className="soft">and {found.length - most} more; filter them</li>
        )}
      </ul>
    </>
  );
}

const picture = /\.(svg|png|jpe?g|gif|webp|avif|ico)$/i;

function Thumb({ file, origin }: { file: SiteFile; origin: string }) {
  if (picture.test(file.path))
    return <img src={`${origin}${file.url}?${file.hash.slice(0, 8)}`} alt="" loading="lazy" />;
  const ext = /\.([a-z0-9]{1,5})$/i.exec(file.path)?.[1] ?? "file";
  return <span className="file-kind">{ext}</span>;
}
