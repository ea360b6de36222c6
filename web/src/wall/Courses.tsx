import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Page } from "../api/client";
import { useScheme } from "../shared/scheme";
import { legendOrder, wordFor, type Question, type State } from "../shared/states";
import { brickAt, lay, layLine, stepFrom, stripAt, type Masonry } from "../shared/wall/masonry";
import { drawBrick, inkOn, readPaint, solid, type Paint } from "../shared/wall/draw";
import { CourseNames, LineNames, tallyOf, type Tally } from "./CourseNames";
import type { Zoom } from "./useZoom";

interface Props {
  pages: Page[];
  states: State[];
  only: State | null;
  question: Question;
  current: string;
  open: (path: string) => void;
  /** Whether they stand in a single line. */
  line: boolean;
  zoom: Zoom;
}

const font = '12px "Instrument Sans Variable", sans-serif';

function useMeasure() {
  return useMemo(() => {
    const c = document.createElement("canvas").getContext("2d");
    if (c) c.font = font;
    return (text: string) => c?.measureText(text).width ?? text.length * 6;
  }, []);
}

/** The bricks on a canvas, with one real button that moves over the current one. */
export function Courses({ pages, states, only, question, current, open, line, zoom }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const [width, setWidth] = useState(0);
  const last = useRef<{
    masonry: Masonry;
    pages: Page[];
    only: State | null;
    width: number;
    dark: boolean;
    states: State[];
  } | null>(null);
  const [at, setAt] = useState(0);
  const [pointed, setPointed] = useState(-1);
  const { within, folded } = zoom;
  const measure = useMeasure();
  const { dark } = useScheme();
  const masonry = useMemo(
    () =>
      width === 0
        ? null
        : line
          ? layLine(pages, width, measure, within)
          : lay(pages, width, measure, { within, folded }),
    [pages, width, measure, within, folded, line],
  );
  const tallies = useMemo(
    () => (masonry && !line ? masonry.courses.map((c) => tallyOf(c, states)) : []),
    [masonry, line, states],
  );

  useLayoutEffect(() => {
    const el = box.current;
    if (!el) return;
    setWidth(el.clientWidth);
    const observer = new ResizeObserver(() => setWidth(el.clientWidth));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  useLayoutEffect(() => {
    if (!masonry || !canvas.current) return;
    const start = performance.now();
    const painted = { masonry, pages, only, width, dark };
    const onto = last.current;
    const same =
      onto &&
      (Object.keys(painted) as (keyof typeof painted)[]).every((k) => onto[k] === painted[k]);
    paint(canvas.current, masonry, states, only, width, same ? onto.states : null);
    paintStrips(canvas.current, masonry, tallies, only);
    last.current = { ...painted, states };
    performance.measure("wall", { start });
  }, [masonry, pages, states, tallies, only, width, dark]);

  const followed = useMemo(
    () => masonry?.bricks.findIndex((b) => pages[b.page]?.path === current) ?? -1,
    [masonry, pages, current],
  );
  const [lastFollowed, setLastFollowed] = useState(followed);
  if (followed !== lastFollowed) {
    setLastFollowed(followed);
    if (followed >= 0) setAt(followed);
  }
  const brick = masonry?.bricks[Math.min(at, masonry.bricks.length - 1)];
  const page = brick && pages[brick.page];
  const state = brick ? (states[brick.page] ?? "none") : "none";

  useEffect(() => {
    if (document.activeElement === button.current)
      button.current?.scrollIntoView({ block: "nearest" });
  }, [at]);

  const keys = (e: React.KeyboardEvent) => {
    if (e.key === "+" && brick) {
      const course = masonry.courses.find((c) => c.pages.includes(brick.page));
      if (course) zoom.into(course.prefix);
    }
    if (e.key === "-") zoom.out();
    if (
      !masonry ||
      !["ArrowRight", "ArrowLeft", "ArrowUp", "ArrowDown", "Home", "End"].includes(e.key)
    )
      return;
    e.preventDefault();
    let next = stepFrom(masonry, at, e.key);
    while (
      only &&
      states[masonry.bricks[next]?.page ?? 0] !== only &&
      stepFrom(masonry, next, e.key) !== next
    )
      next = stepFrom(masonry, next, e.key);
    setAt(next);
  };
  const place = (e: React.PointerEvent | React.MouseEvent): [number, number] => {
    const r = canvas.current?.getBoundingClientRect();
    return [e.clientX - (r?.left ?? 0), e.clientY - (r?.top ?? 0)];
  };
  const named = masonry?.bricks[pointed];
  const namedPage = named && pages[named.page];

  return (
    <div className={line ? "courses line" : "courses"} ref={box}>
      {masonry && (
        <>
          <canvas
            ref={canvas}
            style={{ width, height: masonry.height }}
            aria-hidden
            title={
              namedPage
                ? `${namedPage.title} ${namedPage.path}: ${wordFor(question, states[named.page] ?? "none")}`
                : undefined
            }
            onPointerMove={(e) => setPointed(brickAt(masonry, ...place(e)))}
            onClick={(e) => {
              const i = brickAt(masonry, ...place(e));
              const strip = stripAt(masonry, ...place(e));
              if (strip) zoom.fold(strip.prefix, false);
              const p = pages[masonry.bricks[i]?.page ?? -1];
              if (p) {
                setAt(i);
                open(p.path);
              }
            }}
          />
          {line ? (
            <LineNames courses={masonry.courses} />
          ) : (
            <CourseNames
              courses={masonry.courses}
              wide={masonry.names}
              tallies={tallies}
              question={question}
              zoom={zoom}
            />
          )}
          {brick && page && (
            <button
              ref={button}
              type="button"
              className="brick-cursor"
              onKeyDown={keys}
              onClick={() => open(page.path)}
              data-page={page.path}
              data-state={state}
              style={{
                left: brick.x - 2,
                top: brick.y - 2,
                width: brick.w + 4,
                height: masonry.brickHeight + 4,
              }}
              aria-label={`${page.title}, ${page.path}, ${wordFor(question, state)}, page ${brick.page + 1} of ${pages.length}`}
            />
          )}
        </>
      )}
    </div>
  );
}

/** Paints the bricks; where before says what they are painted as, those that have
 *  another state now. */
function paint(
  el: HTMLCanvasElement,
  m: Masonry,
  states: State[],
  only: State | null,
  width: number,
  before: State[] | null,
) {
  const scale = Math.min(devicePixelRatio || 1, m.height > 4000 ? 1 : 2);
  if (el.width !== width * scale || el.height !== m.height * scale) {
    el.width = width * scale;
    el.height = m.height * scale;
  }
  const c = el.getContext("2d");
  if (!c) return;
  const p = readPaint();
  c.setTransform(scale, 0, 0, scale, 0, 0);
  if (!before) c.clearRect(0, 0, width, m.height);
  c.font = font;
  c.textBaseline = "middle";
  if (m.bricks.some((b) => b.w < 2)) {
    paintFlush(c, p, m, states, only, width);
    return;
  }
  for (const b of m.bricks) {
    const state = states[b.page] ?? "none";
    if (before) {
      if ((before[b.page] ?? "none") === state) continue;
      c.clearRect(b.x - 1, b.y - 1, b.w + 2, m.brickHeight + 2); // the joints are at least as wide
    }
    const dim = only !== null && state !== only;
    drawBrick(c, p, state, b.x, b.y, b.w, m.brickHeight, dim);
    if (m.lettered) {
      c.globalAlpha = dim ? 0.4 : 1;
      c.fillStyle = inkOn(p, state);
      c.fillText(b.text, b.x + 6, b.y + m.brickHeight / 2 + 0.5, b.w - 10);
      c.globalAlpha = 1;
    }
  }
}

/** Paints the share of each state in sections that are folded up. */
function paintStrips(el: HTMLCanvasElement, m: Masonry, tallies: Tally[], only: State | null) {
  const c = el.getContext("2d");
  if (!c || !m.courses.some((o) => o.strip)) return;
  const p = readPaint();
  m.courses.forEach(({ strip, pages }, i) => {
    if (!strip) return;
    c.clearRect(strip.x, strip.y, strip.w, strip.h);
    let x = strip.x;
    const tally = tallies[i] ?? [];
    // However few there are of a state, they are seen.
    const least = 3;
    const rest = strip.w - least * tally.length;
    for (const [state, count] of tally) {
      const w = least + (rest * count) / pages.length;
      c.globalAlpha = only !== null && state !== only ? 0.25 : 1;
      c.fillStyle = solid(p, state);
      c.fillRect(x, strip.y, w, strip.h);
      x += w;
    }
  });
  c.globalAlpha = 1;
}

/** Paints bricks that are narrower than a pixel or two: what is in question is seen among those
 *  that are not, however few it is. */
function paintFlush(
  c: CanvasRenderingContext2D,
  p: Paint,
  m: Masonry,
  states: State[],
  only: State | null,
  width: number,
) {
  c.clearRect(0, 0, width, m.height);
  // Of those that share a pixel, the one that comes first in the legend.
  const rank = new Map(legendOrder.map((s, i) => [s, i]));
  const seen = new Map<number, State>();
  for (const b of m.bricks) {
    const state = states[b.page] ?? "none";
    const x = Math.floor(b.x);
    const there = seen.get(x);
    if (there === undefined || (rank.get(state) ?? 0) < (rank.get(there) ?? 0)) seen.set(x, state);
  }
  const [first] = m.bricks;
  for (const [x, state] of seen) {
    c.globalAlpha = only !== null && state !== only ? 0.25 : 1;
    c.fillStyle = solid(p, state);
    c.fillRect(x, first?.y ?? 0, Math.max(first?.w ?? 0, 1.5), m.brickHeight);
  }
  c.globalAlpha = 1;
}
