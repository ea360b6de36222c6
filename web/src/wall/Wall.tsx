import FormatListBulleted from "@mui/icons-material/FormatListBulleted";
import UnfoldLess from "@mui/icons-material/UnfoldLess";
import UnfoldMore from "@mui/icons-material/UnfoldMore";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { Suspense, useMemo, useState } from "react";
import type { Page } from "../api/client";
import { later } from "../shared/later";
import { countStates, legendOrder, wordFor, type State } from "../shared/states";
import { Courses } from "./Courses";
import { Sign } from "../shared/wall/Sign";
import { useWall, type WallSubject } from "../shared/wall/subject";

const BrickList = later(() => import("./BrickList"), "BrickList");

const nothing: State[] = [];

/** The wall: every page of the site as a brick, answering the question of the
 *  moment. */
export function Wall({
  pages,
  current,
  open,
}: {
  pages: Page[];
  current: string;
  open: (path: string) => void;
}) {
  const { subject } = useWall();
  const [height, setHeight] = useState(() => Number(localStorage.getItem("wall") ?? 256));
  const [folded, setFolded] = useState(false);
  const [asList, setAsList] = useState(false);
  const [only, setOnly] = useState<State | null>(null);
  const states = subject && subject.states.length === pages.length ? subject.states : nothing;
  const counts = useMemo(() => countStates(states), [states]);
  const filter = only && counts.has(only) ? only : null;

  const pull = (e: React.PointerEvent) => {
    const from = e.clientY + height;
    const move = (m: PointerEvent) =>
      setHeight(Math.max(90, Math.min(innerHeight - 260, from - m.clientY)));
    const up = () => {
      removeEventListener("pointermove", move);
      setHeight((h) => {
        localStorage.setItem("wall", String(h));
        return h;
      });
    };
    addEventListener("pointermove", move);
    addEventListener("pointerup", up, { once: true });
  };

  return (
    <section className="wall" aria-label="The wall" style={{ height: folded ? 38 : height }}>
      <button
        type="button"
        className="grip"
        aria-label="Height of the wall"
        onPointerDown={pull}
        onKeyDown={(e) => {
          if (e.key === "ArrowUp") setHeight((h) => Math.min(innerHeight - 260, h + 40));
          if (e.key === "ArrowDown") setHeight((h) => Math.max(90, h - 40));
        }}
      />
      <div className="legend">
        <h2>The wall</h2>
        <Legend
          subject={subject}
          counts={counts}
          only={filter}
          choose={(s) => setOnly(s === filter ? null : s)}
        />
        <span className="question">
          <span>{subject?.about}</span>
          <span className="keys">
            <kbd>[</kbd> <kbd>]</kbd> next page <kbd>Enter</kbd> look
          </span>
          <Tooltip title={asList ? "Show as a wall" : "Show as a list"}>
            <IconButton
              size="small"
              aria-label="Show as a list"
              aria-pressed={asList}
              onClick={() => setAsList(!asList)}
            >
              <FormatListBulleted fontSize="inherit" />
            </IconButton>
          </Tooltip>
          <Tooltip title={folded ? "Unfold the wall" : "Fold the wall to its legend"}>
            <IconButton
              size="small"
              aria-label={folded ? "Unfold the wall" : "Fold the wall"}
              onClick={() => setFolded(!folded)}
            >
              {folded ? <UnfoldMore fontSize="inherit" /> : <UnfoldLess fontSize="inherit" />}
            </IconButton>
          </Tooltip>
        </span>
      </div>
      {!folded && asList && (
        <Suspense>
          <BrickList
            pages={pages}
            states={states}
            only={filter}
            question={subject?.question ?? "stands"}
            open={open}
          />
        </Suspense>
      )}
      {!folded && !asList && (
        <Courses
          pages={pages}
          states={states}
          only={filter}
          question={subject?.question ?? "stands"}
          current={current}
          open={open}
        />
      )}
    </section>
  );
}

function Legend({
  subject,
  counts,
  only,
  choose,
}: {
  subject: WallSubject | null;
  counts: Map<State, number>;
  only: State | null;
  choose: (s: State) => void;
}) {
  return (
    <>
      {legendOrder
        .filter((s) => counts.has(s))
        .map((s) => (
          <button
            type="button"
            key={s}
            className="plain key"
            aria-pressed={only === s}
            onClick={() => choose(s)}
            data-state={s}
          >
            <Sign state={s} />
            <span>
              <b>{counts.get(s)}</b> {wordFor(subject?.question ?? "stands", s)}
            </span>
          </button>
        ))}
    </>
  );
}
