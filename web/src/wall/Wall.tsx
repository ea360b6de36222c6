import Close from "@mui/icons-material/Close";
import UnfoldLess from "@mui/icons-material/UnfoldLess";
import UnfoldMore from "@mui/icons-material/UnfoldMore";
import Chip from "@mui/material/Chip";
import FormatListBulleted from "@mui/icons-material/FormatListBulleted";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { Suspense, useMemo, useState } from "react";
import type { Page } from "../api/client";
import { later } from "../shared/later";
import { countStates, legendOrder, wordFor, type State } from "../shared/states";
import { Courses } from "./Courses";
import { Heights } from "./Heights";
import { titleOf } from "../shared/wall/sections";
import { useSize } from "./useSize";
import { useZoom, type Zoom } from "./useZoom";
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
  const states = subject && subject.states.length === pages.length ? subject.states : nothing;
  const counts = useMemo(() => countStates(states), [states]);
  const asked = (counts.get("none") ?? 0) < states.length;
  const { size, height, choose, pull, taller } = useSize(asked);
  const zoom = useZoom(pages);
  const [asList, setAsList] = useState(false);
  const [only, setOnly] = useState<State | null>(null);
  const filter = only && counts.has(only) ? only : null;

  return (
    <section className={`wall ${size}`} aria-label="The wall" style={{ height }}>
      <button
        type="button"
        className="grip"
        aria-label="Height of the wall"
        onPointerDown={pull}
        onKeyDown={(e) => {
          if (e.key === "ArrowUp") taller(40);
          if (e.key === "ArrowDown") taller(-40);
        }}
      />
      <div className="legend">
        <h2>The wall</h2>
        {zoom.within !== "/" && <Within zoom={zoom} />}
        <Legend
          subject={subject}
          counts={counts}
          only={filter}
          choose={(s) => setOnly(s === filter ? null : s)}
        />
        <span className="question">
          <span className="about" title={subject?.about}>
            <bdi>{subject?.about}</bdi>
          </span>
          <span className="keys">
            <kbd>[</kbd> <kbd>]</kbd> next page <kbd>Enter</kbd> look
          </span>
          <Tooltip title={asList ? "Show as a wall" : "Show as a list"}>
            <IconButton
              size="small"
              aria-label="Show as a list"
              className="as-list"
              aria-pressed={asList && size !== "line"}
              onClick={() => {
                setAsList(!asList || size === "line");
                if (size === "line") choose("courses");
              }}
            >
              <FormatListBulleted fontSize="inherit" />
            </IconButton>
          </Tooltip>
          {size !== "line" && !asList && <FoldAll zoom={zoom} />}
          <Heights size={size} choose={choose} />
        </span>
      </div>
      {asList && size !== "line" && (
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
      {(!asList || size === "line") && (
        <Courses
          pages={pages}
          states={states}
          only={filter}
          question={subject?.question ?? "stands"}
          current={current}
          open={open}
          line={size === "line"}
          zoom={zoom}
        />
      )}
    </section>
  );
}

/** The part of the site that is shown, with the way back to all of it. */
function Within({ zoom }: { zoom: Zoom }) {
  const name = titleOf(zoom.within);
  return (
    <Chip
      size="small"
      className="within"
      label={`Only ${name}`}
      title={zoom.within}
      onDelete={zoom.out}
      deleteIcon={<Close aria-label={`Leave ${name}`} />}
      onClick={zoom.out}
    />
  );
}

/** Folds all sections up, or opens them. */
function FoldAll({ zoom }: { zoom: Zoom }) {
  const [up, setUp] = useState(false);
  const word = up ? "Open all sections" : "Fold all sections up";
  return (
    <Tooltip title={word}>
      <IconButton
        size="small"
        className="as-list"
        aria-label={word}
        onClick={() => {
          zoom.foldAll(!up);
          setUp(!up);
        }}
      >
        {up ? <UnfoldMore fontSize="inherit" /> : <UnfoldLess fontSize="inherit" />}
      </IconButton>
    </Tooltip>
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
              <b>{counts.get(s)}</b>{" "}
              <span className="state-word">{wordFor(subject?.question ?? "stands", s)}</span>
            </span>
          </button>
        ))}
    </>
  );
}
