import { Waiting } from "../shared/Waiting";
import Drawer from "@mui/material/Drawer";
import useMediaQuery from "@mui/material/useMediaQuery";
import {
  Suspense,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { Link, useLocation, useNavigate, useSearchParams } from "react-router";
import type { Overview } from "../api/client";
import { useEvents, useStep } from "../api/changes";
import { useOverview, useSite } from "../api/queries";
import { later } from "../shared/later";
import { tell } from "../shared/notices";
import { holdKeys } from "../shared/typedAhead";
import { typing } from "../shared/typing";
import { placesOf } from "../shared/placeOf";
import { takeBackPending } from "../shared/pendingSteps";
import { Unsaved } from "../shared/Unsaved";
import { useBuffers } from "../shared/buffers";
import { Find } from "../find/Find";
import type { Command } from "../find/hits";
import { useScheme } from "../shared/scheme";
import { Shelf } from "../shelf/Shelf";
import { useWall, WallProvider } from "../shared/wall/subject";
import { Wall } from "../wall/Wall";
import { KeptFolder } from "./KeptFolder";
import { ServerGone } from "./ServerGone";
import { windowTitle } from "./windowTitle";
import { focusPlace, keepFocus } from "./keepFocus";
import { arrowsInLists } from "./arrows";
import { GoingOn } from "./GoingOn";
import { HelpPanel } from "./HelpPanel";
import { Place } from "./Place";
import { Tour, untoured } from "./Tour";
import { TopBar } from "./TopBar";

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
      <main>
        <Waiting error={null}>Opening the site…</Waiting>
      </main>
    );
  return (
    <WallProvider>
      <Frame overview={overview.data} />
    </WallProvider>
  );
}

function Frame({ overview }: { overview: Overview }) {
  const [params, setParams] = useSearchParams();
  const [sheet, setSheet] = useState<"find" | "keys" | null>(null);
  const [help, setHelp] = useState(false);
  const [tour, setTour] = useState(untoured);
  const { subject } = useWall();
  const drawer = useMediaQuery("(max-width: 999px)", { noSsr: true });
  const [shelf, setShelf] = useState(false);
  const { pathname: where, search } = useLocation();
  const [was, setWas] = useState(where);
  if (was !== where) {
    setWas(where);
    setShelf(false); // something was taken from it
  }
  const go = useNavigate();
  const site = useSite();
  const peek = params.get("peek") ?? "";
  const named = windowTitle(overview, where, params);
  useEffect(() => {
    document.title = named;
    return () => {
      document.title = "Brick Shelf";
    };
  }, [named]);
  const onPages = where.endsWith("/pages");
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

  useEffect(keepFocus, []);
  useEffect(() => {
    addEventListener("keydown", arrowsInLists);
    return () => removeEventListener("keydown", arrowsInLists);
  }, []);
  // What had the focus has it again when one comes back from looking at pages.
  const before = useRef<Element | null>(null);
  const looking = peek !== "";
  useLayoutEffect(() => {
    if (!looking) return;
    before.current = document.activeElement;
    return () => {
      requestAnimationFrame(() => {
        if (before.current instanceof HTMLElement) before.current.focus();
      });
    };
  }, [looking]);
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
      } else if (e.key === "F1") {
        e.preventDefault();
        setHelp((on) => !on);
      } else if (mod && e.shiftKey && e.key.toLowerCase() === "f") {
        e.preventDefault();
        const find = document.querySelector<HTMLElement>(".words-form input");
        if (find) find.focus();
        else {
          holdKeys();
          void go(`/${site}/words`, { flushSync: true });
        }
      } else if (e.key === "Escape" && peek && !sheet) close();
      else if (typing(e)) return;
      else if (mod && e.key.toLowerCase() === "z") {
        e.preventDefault();
        (e.shiftKey ? redo : back)();
      } else if (mod || e.altKey) return;
      else if (e.key === "]") step(1);
      else if (e.key === "[") step(-1);
      else if (e.key === "?") setSheet("keys");
      else if (e.key === "w") focusWall();
    };
    addEventListener("keydown", key);
    return () => removeEventListener("keydown", key);
  }, [peek, sheet, close, step, back, redo, go, site]);

  const find = useCallback(() => setSheet("find"), []);
  const keys = useCallback(() => setSheet("keys"), []);
  const { dark, toggle } = useScheme();
  const commands = useMemo<Command[]>(
    () => [
      { name: overview.undo ? `Undo: ${overview.undo}` : "Undo", key: "Ctrl Z", act: back },
      { name: overview.redo ? `Redo: ${overview.redo}` : "Redo", key: "Ctrl Shift Z", act: redo },
      { name: "Go to the wall", key: "W", act: focusWall },
      { name: "Repeated pieces of pages", key: "", act: () => void go(`/${site}/repeats`) },
      { name: "Next page in question", key: "]", act: () => step(1) },
      { name: "Previous page in question", key: "[", act: () => step(-1) },
      { name: "All keys", key: "?", act: () => setSheet("keys") },
      { name: "Help on this place", key: "F1", act: () => setHelp(true) },
      { name: "Tour of four steps", act: () => setTour(true) },
      { name: dark ? "Light scheme" : "Dark scheme", act: toggle },
    ],
    [overview.undo, overview.redo, back, redo, step, dark, toggle, go, site],
  );
  const at = inQuestion.indexOf(peek);
  const blocks = (
    <Shelf blocks={overview.blocks} pages={overview.pages} origin={overview.site_origin} />
  );
  return (
    <div className="bench">
      <SkipLinks />
      <TopBar
        overview={overview}
        find={find}
        keys={keys}
        help={() => setHelp(!help)}
        helping={help}
        undo={undo}
        redo={redo}
        shelf={drawer ? () => setShelf(true) : undefined}
      />
      {drawer ? (
        <Drawer open={shelf} onClose={() => setShelf(false)} className="shelf-drawer">
          {blocks}
        </Drawer>
      ) : (
        blocks
      )}
      <main id="place" tabIndex={-1}>
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
        <ServerGone />
        {!(peek && subject) && <KeptFolder />}
        {!(peek && subject) && <Unsaved overview={overview} />}
        <div className={peek && subject ? "place away" : "place"} data-at={where + search}>
          <Place />
        </div>
      </main>
      <Wall pages={overview.pages} current={peek} open={open} />
      {help && (
        <HelpPanel
          close={() => {
            setHelp(false);
            document.querySelector<HTMLElement>("#help")?.focus();
          }}
          tour={() => {
            setHelp(false);
            setTour(true);
          }}
          keys={keys}
        />
      )}
      <GoingOn />
      {tour && <Tour close={() => setTour(false)} />}
      <Suspense>
        {sheet === "find" && (
          <Find
            overview={overview}
            commands={commands}
            close={() => setSheet(null)}
            gone={focusPlace}
          />
        )}
        {sheet === "keys" && <Shortcuts close={() => setSheet(null)} />}
      </Suspense>
    </div>
  );
}

/** Moves the focus to the bricks. */
const focusWall = () => document.querySelector<HTMLElement>(".brick-cursor, .course-name")?.focus();

/** Ways past the bar and the shelf. They move the focus and leave the address as it is. */
function SkipLinks() {
  const to = (selector: string) => (e: React.MouseEvent) => {
    e.preventDefault();
    document.querySelector<HTMLElement>(selector)?.focus();
  };
  return (
    <nav className="skip" aria-label="Past the bar">
      <a href="#place" onClick={to("#place")}>
        Skip to the content
      </a>
      <a href="#editor" onClick={to("#place .cm-content, #place form input, #place input")}>
        Skip to the editor
      </a>
      <a href="#wall" onClick={to(".brick-cursor, .course-name")}>
        To the wall
      </a>
    </nav>
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
