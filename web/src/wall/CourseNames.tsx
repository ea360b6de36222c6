import { inLine, type Masonry } from "../shared/wall/masonry";

interface Props {
  courses: Masonry["courses"];
  fold: (name: string) => void;
}

/** The names of the sections over a line of bricks, where there is room for them. */
export function LineNames({ courses }: { courses: Masonry["courses"] }) {
  return courses
    .filter((c) => c.w > 0)
    .map((c) => (
      <span key={c.name} className="line-name" style={{ left: c.x }}>
        {inLine(c.name, c.count)}
      </span>
    ));
}

/** The names of the courses, by which each is folded up. */
export function CourseNames({ courses, fold }: Props) {
  return courses.map((c) => (
    <button
      type="button"
      key={c.name}
      className="plain course-name"
      style={{ top: c.y }}
      aria-expanded={!c.folded}
      onClick={() => fold(c.name)}
    >
      {c.folded ? "+ " : ""}
      {c.name} {c.count > 1 || c.folded ? c.count : ""}
    </button>
  ));
}
