import type { Page } from "../../api/client";
import { apart, fitted, sectionsOf } from "./sections";

export interface Brick {
  page: number; // index into pages
  x: number;
  y: number;
  w: number;
  text: string; // the page's title, as much as there is room for; "" where bricks have none
}

export interface Course {
  prefix: string; // what the addresses of its pages begin with
  name: string;
  label: string; // as much of the name as there is room for, told from others
  pages: number[];
  x: number;
  y: number;
  w: number; // of its name; 0 where there is no room for it
  /** Where it is folded up: where the share of each state is shown. */
  strip: { x: number; y: number; w: number; h: number } | null;
}

export interface Masonry {
  bricks: Brick[];
  courses: Course[];
  height: number;
  brickHeight: number;
  lettered: boolean;
  names: number; // how wide the column of names is
  line: boolean; // they stand in a single line
}

const margin = 14;

/** The column of names, in pixels: as wide as the longest asks for, between these. */
const narrowest = 118;
const broadest = 210;
/** Of it: what the sign to come closer takes, and the space behind. */
const beside = 34;

/** How wide a brick with a title can be. */
const widest = 150;

/** How a section is told in a line: its name, and how many pages it has. */
export const inLine = (name: string, count: number) => (count > 1 ? `${name} ${count}` : name);

/** Lays every page as a brick in a single line, as wide as there is room for. Names of sections
 *  stand over them, where they fit. */
export function layLine(
  pages: Page[],
  width: number,
  measure: (text: string) => number,
  within = "/",
): Masonry {
  const sections = sectionsOf(pages, within);
  const all = sections.reduce((n, s) => n + s.pages.length, 0);
  const room = width - 2 * margin;
  const spread = sections.map((s) => measure(inLine(s.name, s.pages.length)) + 2);
  const widths = (gap: number, w: number, named: boolean) =>
    sections.map((s, i) =>
      Math.max(s.pages.length * (w + gap) - gap, named ? (spread[i] ?? 0) : 0),
    );
  const taken = (list: number[], between: number) =>
    list.reduce((n, w) => n + w, 0) + between * (list.length - 1);
  // The first way that fits: names whole; names where they fit; bricks beside one another.
  const ways = [
    ...[13, 11, 9, 7].map((w) => ({ w, gap: 2, between: 14, named: true })),
    ...[13, 11, 9, 7, 5, 4].map((w) => ({ w, gap: 2, between: 8, named: false })),
    ...[3, 2].map((w) => ({ w, gap: 1, between: 4, named: false })),
  ];
  const { w, gap, between, named } = ways.find(
    (l) => taken(widths(l.gap, l.w, l.named), l.between) <= room,
  ) ?? { w: Math.max(0, room) / Math.max(1, all), gap: 0, between: 0, named: false };
  const out: Masonry = {
    bricks: [],
    courses: [],
    height: 36,
    brickHeight: 13,
    lettered: false,
    names: 0,
    line: true,
  };
  let x = margin;
  widths(gap, w, named).forEach((wide, i) => {
    const section = sections[i];
    if (!section) return;
    const fits = (spread[i] ?? 0) <= wide;
    out.courses.push({ ...section, label: section.name, x, y: 0, w: fits ? wide : 0, strip: null });
    section.pages.forEach((page, n) =>
      out.bricks.push({ page, x: x + n * (w + gap), y: 18, w, text: "" }),
    );
    x += wide + between;
  });
  return out;
}

/** How much of a site is laid, and what of it stands folded up. */
export interface Laid {
  /** What the addresses of the pages begin with; "/" of all. */
  within?: string;
  folded?: (prefix: string, count: number) => boolean;
}

/** Lays every page as a brick, in courses by section; of a course that is folded up, a strip. */
export function lay(
  pages: Page[],
  width: number,
  measure: (text: string) => number,
  { within = "/", folded = () => false }: Laid = {},
): Masonry {
  const sections = sectionsOf(pages, within);
  const open = sections.filter((s) => !folded(s.prefix, s.pages.length));
  const count = open.reduce((n, s) => n + s.pages.length, 0);
  const lettered = count <= 400;
  const brickHeight = lettered ? 20 : count <= 3000 ? 10 : 7;
  const gap = lettered ? 3 : 2;
  const small = brickHeight * 1.6;
  const counted = (i: number) => measure(` ${sections[i]?.pages.length ?? 0}`);
  const asked = sections.map((s, i) => Math.ceil(measure(s.name) + counted(i)) + beside);
  const names = Math.max(
    narrowest,
    Math.min(broadest, width / 4, ...asked.toSorted((a, b) => b - a).slice(0, 1)),
  );
  const labels = apart(
    sections.map((s) => s.name),
    (i) => names - beside - counted(i),
    measure,
  );
  const out: Masonry = {
    bricks: [],
    courses: [],
    height: 0,
    brickHeight,
    lettered,
    names,
    line: false,
  };
  let y = 2;
  let line = 0;
  sections.forEach((section, i) => {
    const course: Course = {
      ...section,
      label: labels[i] ?? section.name,
      x: margin,
      y,
      w: names - beside,
      strip: null,
    };
    out.courses.push(course);
    if (!open.includes(section)) {
      const w = Math.max(0, width - names - 2 * margin);
      course.strip = { x: margin + names, y: y + 5, w, h: 10 };
      y += 24;
      return;
    }
    const start = () => margin + names + (line % 2 ? (lettered ? 14 : small / 2) : 0);
    let x = start();
    for (const page of section.pages) {
      const text = lettered ? fitted(pages[page]?.title ?? "", widest - 13, measure) : "";
      const w = lettered ? Math.max(34, measure(text) + 13) : small;
      if (x + w > width - margin && x > start()) {
        y += brickHeight + gap;
        line++;
        x = start();
      }
      out.bricks.push({ page, x, y, w, text });
      x += w + gap;
    }
    y = Math.max(y + brickHeight + gap, course.y + 24); // one can press what is beside its name
    line++;
  });
  out.height = y + 6;
  return out;
}

/** The position of the brick at a place; -1 where none stands. */
export function brickAt(m: Masonry, x: number, y: number): number {
  // They stand row by row, and in a row from left to right.
  let [low, high] = [0, m.bricks.length];
  while (low < high) {
    const half = (low + high) >> 1;
    const b = m.bricks[half];
    if (b && (b.y + m.brickHeight < y || (b.y <= y && b.x + b.w < x))) low = half + 1;
    else high = half;
  }
  const b = m.bricks[low];
  return b && x >= b.x && y >= b.y && y <= b.y + m.brickHeight ? low : -1;
}

/** The section of which the strip at a place is; null where none stands. */
export function stripAt(m: Masonry, x: number, y: number): Course | null {
  return (
    m.courses.find(
      ({ strip: s }) => s && x >= s.x && x <= s.x + s.w && y >= s.y - 5 && y <= s.y + s.h + 5,
    ) ?? null
  );
}

/** The first brick of the section before or behind the one of a brick in a line; the last of all
 *  where none is behind. */
function sectionFrom(m: Masonry, at: number, dir: 1 | -1): number {
  let starts = 0;
  let before = 0;
  for (const c of m.courses) {
    const next = starts + c.pages.length;
    if (at < next) {
      if (dir > 0) return Math.min(next, m.bricks.length - 1);
      return at > starts ? starts : before;
    }
    before = starts;
    starts = next;
  }
  return at;
}

/** The brick that a key leads to from the one at index at. */
export function stepFrom(m: Masonry, at: number, key: string): number {
  const here = m.bricks[at];
  if (!here) return 0;
  switch (key) {
    case "ArrowRight":
      return Math.min(at + 1, m.bricks.length - 1);
    case "ArrowLeft":
      return Math.max(at - 1, 0);
    case "Home":
      return 0;
    case "End":
      return m.bricks.length - 1;
    case "ArrowUp":
    case "ArrowDown": {
      const dir = key === "ArrowUp" ? -1 : 1;
      if (m.line) return sectionFrom(m, at, dir);
      let best = at;
      let score = Infinity;
      m.bricks.forEach((b, i) => {
        const dy = (b.y - here.y) * dir;
        if (dy <= 0) return;
        const s = dy * 1000 + Math.abs(b.x + b.w / 2 - here.x - here.w / 2);
        if (s < score) {
          score = s;
          best = i;
        }
      });
      return best;
    }
  }
  return at;
}
