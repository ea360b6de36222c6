import type { Page } from "../../api/client";

export interface Brick {
  page: number; // index into pages
  x: number;
  y: number;
  w: number;
  text: string; // the page's title, as much as there is room for; "" where bricks have none
}

export interface Course {
  name: string;
  x: number;
  y: number;
  w: number; // of its name; 0 where there is no room for it
  count: number;
  folded: boolean;
}

export interface Masonry {
  bricks: Brick[];
  courses: Course[];
  height: number;
  brickHeight: number;
  lettered: boolean;
  line: boolean; // they stand in a single line
}

const margin = 14;
const names = 110;

/** The section of a page: the first part of its address. */
export function sectionOf(path: string): string {
  const part = path.split("/")[1] ?? "";
  return path.indexOf("/", 1) < 0 || path === "/" ? "" : part;
}

function titleOf(section: string): string {
  return section === ""
    ? "Home"
    : section.charAt(0).toUpperCase() + section.slice(1).replaceAll("-", " ");
}

/** How wide a brick with a title can be. */
const widest = 150;

/** As much of a text as there is room for. */
export function fitted(text: string, room: number, measure: (text: string) => number): string {
  if (measure(text) <= room) return text;
  const letters = Array.from(text);
  let [fits, ends] = [0, letters.length];
  while (fits + 1 < ends) {
    const half = (fits + ends) >> 1;
    if (measure(`${letters.slice(0, half).join("").trimEnd()}…`) <= room) fits = half;
    else ends = half;
  }
  return `${letters.slice(0, fits).join("").trimEnd()}…`;
}

/** The sections of a site in their order, with their pages. Sections of a single page at the top
 *  of the site are one with the home page. */
function sectionsOf(pages: Page[]): [name: string, pages: number[]][] {
  const sections = new Map<string, number[]>();
  pages.forEach((p, i) => {
    const s = sectionOf(p.path);
    const list = sections.get(s);
    if (list) list.push(i);
    else sections.set(s, [i]);
  });
  for (const [s, list] of [...sections]) {
    if (s !== "" && list.length === 1 && sections.size > 3) {
      sections.delete(s);
      sections.set("", [...(sections.get("") ?? []), ...list]);
    }
  }
  return [...sections.entries()]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([section, list]) => [titleOf(section), list]);
}

/** How a section is told in a line: its name, and how many pages it has. */
export const inLine = (name: string, count: number) => (count > 1 ? `${name} ${count}` : name);

/** Lays every page as a brick in a single line, as wide as there is room for. Names of sections
 *  stand over them, where they fit. */
export function layLine(pages: Page[], width: number, measure: (text: string) => number): Masonry {
  const sections = sectionsOf(pages);
  const room = width - 2 * margin;
  const spread = sections.map(([name, list]) => measure(inLine(name, list.length)) + 2);
  const widths = (gap: number, w: number, named: boolean) =>
    sections.map(([, list], i) =>
      Math.max(list.length * (w + gap) - gap, named ? (spread[i] ?? 0) : 0),
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
  ) ?? { w: Math.max(0, room) / Math.max(1, pages.length), gap: 0, between: 0, named: false };
  const out: Masonry = {
    bricks: [],
    courses: [],
    height: 36,
    brickHeight: 13,
    lettered: false,
    line: true,
  };
  let x = margin;
  widths(gap, w, named).forEach((wide, i) => {
    const [name, list] = sections[i] ?? ["", []];
    const fits = (spread[i] ?? 0) <= wide;
    out.courses.push({ name, x, y: 0, w: fits ? wide : 0, count: list.length, folded: false });
    list.forEach((page, n) => out.bricks.push({ page, x: x + n * (w + gap), y: 18, w, text: "" }));
    x += wide + between;
  });
  return out;
}

/** Lays every page as a brick, in courses by section. */
export function lay(
  pages: Page[],
  width: number,
  measure: (text: string) => number,
  folded: ReadonlySet<string>,
): Masonry {
  const lettered = pages.length <= 400;
  const brickHeight = lettered ? 20 : pages.length <= 3000 ? 10 : 7;
  const gap = lettered ? 3 : 2;
  const small = brickHeight * 1.6;
  const out: Masonry = { bricks: [], courses: [], height: 0, brickHeight, lettered, line: false };
  let y = 2;
  let line = 0;
  for (const [name, list] of sectionsOf(pages)) {
    out.courses.push({
      name,
      x: margin,
      y,
      w: names - 18,
      count: list.length,
      folded: folded.has(name),
    });
    if (folded.has(name)) {
      y += 22;
      continue;
    }
    const start = () => margin + names + (line % 2 ? (lettered ? 14 : small / 2) : 0);
    let x = start();
    for (const page of list) {
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
    y += Math.max(brickHeight + gap, lettered ? 0 : 16);
    line++;
  }
  out.height = y + 6;
  return out;
}

/** The first brick of the section before or behind the one of a brick in a line; the last of all
 *  where none is behind. */
function sectionFrom(m: Masonry, at: number, dir: 1 | -1): number {
  let starts = 0;
  let before = 0;
  for (const c of m.courses) {
    const next = starts + c.count;
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
