import ZoomIn from "@mui/icons-material/ZoomInOutlined";
import { legendOrder, wordFor, type Question, type State } from "../shared/states";
import { inLine, type Course } from "../shared/wall/masonry";
import type { Zoom } from "./useZoom";

/** The names of the sections over a line of bricks, where there is room for them. */
export function LineNames({ courses }: { courses: Course[] }) {
  return courses
    .filter((c) => c.w > 0)
    .map((c) => (
      <span key={c.prefix} className="line-name" style={{ left: c.x }}>
        {inLine(c.name, c.pages.length)}
      </span>
    ));
}

/** How many pages of a section are in each state, in the order of the legend. */
export type Tally = [State, number][];

export function tallyOf(course: Course, states: State[]): Tally {
  const counts = new Map<State, number>();
  for (const i of course.pages) {
    const s = states[i] ?? "none";
    counts.set(s, (counts.get(s) ?? 0) + 1);
  }
  return legendOrder.flatMap((s) => {
    const n = counts.get(s);
    return n ? [[s, n]] : [];
  });
}

/** A section as a sentence, for those who do not see its bricks. */
export function sentenceOf(course: Course, tally: Tally, question: Question): string {
  const n = course.pages.length;
  const states = tally.map(([s, count]) => `${count} ${wordFor(question, s)}`).join(", ");
  return `${course.name}, ${n} ${n === 1 ? "page" : "pages"}: ${states}`;
}

/** The names of the courses, by which each is folded up or come closer to. */
export function CourseNames({
  courses,
  wide,
  tallies,
  question,
  zoom,
}: {
  courses: Course[];
  /** How wide their column is, in pixels. */
  wide: number;
  tallies: Tally[];
  question: Question;
  zoom: Zoom;
}) {
  return courses.map((c, i) => (
    <span key={c.prefix} className="course" style={{ top: c.y, width: wide - 4 }}>
      <button
        type="button"
        className="plain course-name"
        aria-expanded={!c.strip}
        aria-label={sentenceOf(c, tallies[i] ?? [], question)}
        title={c.label === c.name ? undefined : c.name}
        dir="auto"
        onClick={() => zoom.fold(c.prefix, !c.strip)}
      >
        {c.strip ? "+ " : ""}
        {c.label} {c.pages.length > 1 || c.strip ? c.pages.length : ""}
      </button>
      {c.prefix !== zoom.within && (
        <button
          type="button"
          className="plain course-closer"
          aria-label={`Only ${c.name}`}
          title={`Only ${c.name}`}
          onClick={() => zoom.into(c.prefix)}
        >
          <ZoomIn fontSize="inherit" />
        </button>
      )}
    </span>
  ));
}
