import DarkMode from "@mui/icons-material/DarkModeOutlined";
import Keyboard from "@mui/icons-material/KeyboardOutlined";
import LightMode from "@mui/icons-material/LightModeOutlined";
import Redo from "@mui/icons-material/Redo";
import Undo from "@mui/icons-material/Undo";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { memo, Suspense, useCallback, useEffect, useMemo, useState } from "react";
import { Link, NavLink, useLocation, useNavigate, useSearchParams } from "react-router";
import type { Overview } from "../api/client";
import { useEvents, useStep } from "../api/changes";
import { useOverview, useSite } from "../api/queries";
import { Brand } from "../shared/Brand";
import { later } from "../shared/later";
import { tell } from "../shared/notices";
import { useScheme } from "../shared/scheme";
import { placesOf } from "../shared/placeOf";
import { takeBackPending } from "../shared/pendingSteps";
import { Unsaved } from "../shared/Unsaved";
import { useBuffers } from "../shared/buffers";
import { Shelf } from "../shelf/Shelf";
import { useWall, WallProvider } from "../shared/wall/subject";
import { Wall } from "../wall/Wall";
import { KeptFolder } from "./KeptFolder";
import { Place } from "./Place";

const Find = later(() => import("../find/Find"), "Find");
const Peek = later(() => import("../peek/Peek"), "Peek");
const Shortcuts = later(() => import("../shared/Shortcuts"), "Shortcuts");

/** The bench: top bar, shelf, the subject, and the wall behind it. */
export function App() {
  const overview = useOverview();
  if (overview.error)
    return (
      <main className="empty" role="alert">
        <h1>Brick Shelf</h1>
        <p>{overview.error.message}</p>
        <p>
          <Link to="/?all">All sites</Link>
        </p>
      </main>
    );
  if (!overview.data)
    return (
      <main className="empty" aria-busy="true">
        Opening the site…
      </main>
    );
  return (
    <WallProvider>
      <Frame overview={overview.data} />
    </WallProvider>
  );
}

const typing = (e: KeyboardEvent) =>
  e.target instanceof HTMLElement &&
  (e.target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(e.target.tagName));

function Frame({ overview }: { overview: Overview }) {
  const [params, setParams] = useSearchParams();
  const [sheet, setSheet] = useState<"find" | "keys" | null>(null);
  const { subject } = useWall();
  const go = useNavigate();
  const site = useSite();
  const peek = params.get("peek") ?? "";
  const onPages = useLocation().pathname.endsWith("/pages");
  const undo = useStepWithWord("undo");
  const redo = useStepWithWord("redo");
  useEvents(
    useCallback((kind, title) => {
      if (document.hidden)
        tell(kind === "release" ? `Published: ${title}` : `Saved elsewhere: ${title}`);
    }, []),
  );

  const pick = subject?.pick;
  const open = useCallback(
    (path: string, looking = false) => {
      if (pick && !looking) {
        pick(path);
        return;
      }
      const doc = overview.pages.find((p) => p.path === path)?.doc;
      if (onPages && !looking && subject?.question === "page" && doc)
        void go(`/${site}/pages?doc=${encodeURIComponent(doc)}`);
      else
        setParams((p) => {
          p.set("peek", path);
          return p;
        });
    },
    [setParams, onPages, subject, overview.pages, go, site, pick],
  );
  const close = useCallback(
    () =>
      setParams((p) => {
        p.delete("peek");
        return p;
      }),
    [setParams],
  );
  const inQuestion = useMemo(
    () =>
      overview.pages.filter((_, i) => (subject?.states[i] ?? "none") !== "none").map((p) => p.path),
    [overview.pages, subject],
  );
  const step = useCallback(
    (by: 1 | -1) => {
      if (inQuestion.length === 0) return;
      // The address is ahead of what is drawn where keys follow one another quickly.
      const now = new URLSearchParams(window.location.search).get("peek");
      const i = inQuestion.indexOf(now ?? "");
      const next =
        inQuestion[
          (i < 0 ? (by > 0 ? 0 : inQuestion.length - 1) : i + by + inQuestion.length) %
            inQuestion.length
        ];
      if (next)
        setParams(
          (p) => {
            p.set("peek", next);
            return p;
          },
          { replace: now !== null },
        );
    },
    [inQuestion, setParams],
  );

  const buffers = useBuffers();
  // What waits or is not saved is taken back before anything that is saved.
  const back = useCallback(() => {
    if (takeBackPending()) return;
    const done = buffers.back(site);
    if (done === "nothing") undo();
    else if (done === "stays")
      tell(
        `Nothing is undone while edits are not saved. Save or discard those of ${placesOf(
          site,
          buffers.unsaved(site),
          overview,
        )
          .map((k) => k.title)
          .join(", ")} first.`,
        "warning",
      );
  }, [buffers, site, undo, overview]);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const mod = e.ctrlKey || e.metaKey;
      if (mod && e.key.toLowerCase() === "k") {
        e.preventDefault();
        setSheet("find");
      } else if (e.key === "Escape" && peek && !sheet) close();
      else if (typing(e)) return;
      else if (mod && e.key.toLowerCase() === "z") {
        e.preventDefault();
        (e.shiftKey ? redo : back)();
      } else if (mod || e.altKey) return;
      else if (e.key === "]") step(1);
      else if (e.key === "[") step(-1);
      else if (e.key === "?") setSheet("keys");
      else if (e.key === "w") document.querySelector<HTMLElement>(".brick-cursor")?.focus();
    };
    addEventListener("keydown", key);
    return () => removeEventListener("keydown", key);
  }, [peek, sheet, close, step, back, redo]);

  const find = useCallback(() => setSheet("find"), []);
  const keys = useCallback(() => setSheet("keys"), []);
  const at = inQuestion.indexOf(peek);
  return (
    <div className="bench">
      <TopBar overview={overview} find={find} keys={keys} undo={undo} redo={redo} />
      <Shelf blocks={overview.blocks} />
      <main>
        {peek && subject ? (
          <Suspense>
            <Peek
              page={peek}
              against={subject.against}
              question={subject.against === "live" ? "differs" : "would"}
              place={at >= 0 ? `${at + 1} of ${inQuestion.length} in question` : ""}
              step={step}
              close={close}
              follow={(href) => {
                const to = href.split("#")[0] ?? "";
                if (overview.pages.some((p) => p.path === to)) open(to);
              }}
            />
          </Suspense>
        ) : null}
        {!(peek && subject) && <KeptFolder />}
        {!(peek && subject) && <Unsaved overview={overview} />}
        <div style={peek && subject ? { display: "none" } : { display: "contents" }}>
          <Place />
        </div>
      </main>
      <Wall pages={overview.pages} current={peek} open={open} />
      <Suspense>
        {sheet === "find" && <Find overview={overview} close={() => setSheet(null)} />}
        {sheet === "keys" && <Shortcuts close={() => setSheet(null)} />}
      </Suspense>
    </div>
  );
}

function useStepWithWord(which: "undo" | "redo") {
  const { mutate } = useStep(which);
  return useCallback(
    () =>
      mutate(undefined, {
        onSuccess: (s) => tell(s.title),
        onError: (e) => tell(e.message, "warning"),
      }),
    [mutate],
  );
}

const TopBar = memo(function TopBar({
  overview,
  find,
  keys,
  undo,
  redo,
}: {
  overview: Overview;
  find: () => void;
  keys: () => void;
  undo: () => void;
  redo: () => void;
}) {
  const { dark, toggle } = useScheme();
  const at = `/${overview.name}`;
  const first = overview.blocks.find((b) => b.name === "footer") ?? overview.blocks[0];
  const onBlocks = useLocation().pathname.startsWith(`${at}/blocks`);
  return (
    <header>
      <Brand to={at} />
      <Link className="site-name" to="/?all" aria-label={`${overview.title}: all sites`}>
        {overview.title}
      </Link>
      <nav className="places" aria-label="Places">
        <Link
          to={first ? `${at}/blocks/${first.name}` : at}
          aria-current={onBlocks ? "page" : undefined}
        >
          Blocks
        </Link>
        <NavLink to={`${at}/pages`}>Pages</NavLink>
        <NavLink to={`${at}/rules`}>Rules</NavLink>
        <NavLink to={`${at}/layouts`}>Layouts</NavLink>
        <NavLink to={`${at}/menus`}>Menus</NavLink>
        <NavLink to={`${at}/files`}>Files</NavLink>
        <NavLink to={`${at}/site`}>Site</NavLink>
        <NavLink to={`${at}/reference`}>Reference</NavLink>
        <NavLink to={`${at}/checks`}>
          Checks{overview.checked ? (overview.findings ? ` ${overview.findings}` : "") : " …"}
        </NavLink>
      </nav>
      <button type="button" className="find-box" onClick={find}>
        <span>Find anything</span>
        <kbd>Ctrl K</kbd>
      </button>
      <div className="draft-state">
        <b>
          {overview.edits} {overview.edits === 1 ? "edit" : "edits"}
        </b>{" "}
        waiting
        <br />
        {overview.differ} {overview.differ === 1 ? "page differs" : "pages differ"} from live
      </div>
      <div style={{ display: "flex" }}>
        <Tooltip title={overview.undo ? `Undo: ${overview.undo}` : "Nothing to undo"}>
          <span>
            <IconButton size="small" aria-label="Undo" disabled={!overview.undo} onClick={undo}>
              <Undo fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={overview.redo ? `Redo: ${overview.redo}` : "Nothing to redo"}>
          <span>
            <IconButton size="small" aria-label="Redo" disabled={!overview.redo} onClick={redo}>
              <Redo fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Keyboard">
          <IconButton size="small" aria-label="Keyboard" onClick={keys}>
            <Keyboard fontSize="small" />
          </IconButton>
        </Tooltip>
        <Tooltip title={dark ? "Light" : "Dark"}>
          <IconButton
            size="small"
            aria-label={dark ? "Light scheme" : "Dark scheme"}
            onClick={toggle}
          >
            {dark ? <LightMode fontSize="small" /> : <DarkMode fontSize="small" />}
          </IconButton>
        </Tooltip>
      </div>
      <Button component={NavLink} to={`${at}/review`} variant="outlined" color="secondary">
        Review
      </Button>
    </header>
  );
});
