import { useEffect, useEffectEvent, useState, useSyncExternalStore } from "react";
import { useLocation, useSearchParams } from "react-router";
import { typing } from "../shared/typing";
import { chosenSizes, keepSize, roomOf, sizes, usualSize, type Size } from "../shared/wall/size";

/** Pixels that the courses take at least, and that stay for what stands above the wall. */
const least = 120;
const above = 260;

/** Pixels below which a wall that is pulled down is a line. */
const lineBelow = 100;

function resized(told: () => void) {
  addEventListener("resize", told);
  return () => removeEventListener("resize", told);
}

/** How high the wall stands: as was chosen in this place, else as its question asks for. */
export function useSize(asked: boolean) {
  const room = roomOf(useLocation().pathname, useSearchParams()[0]);
  const width = useSyncExternalStore(resized, () => innerWidth);
  const height = useSyncExternalStore(resized, () => innerHeight);
  const [chosen, setChosen] = useState(chosenSizes);
  const [courses, setCourses] = useState(() => Number(localStorage.getItem("wall")) || 256);
  const size = chosen[room] ?? usualSize(room, asked, { width, height });
  const choose = (next: Size) => {
    keepSize(room, next);
    setChosen((c) => ({ ...c, [room]: next }));
  };
  const most = Math.max(least, height - above);
  const heights: Record<Size, number | undefined> = {
    line: undefined, // as high as what it holds
    courses: Math.min(courses, most),
    tall: Math.min(Math.round(height * 0.62), most),
  };
  const to = (px: number) => {
    if (px < lineBelow) {
      choose("line");
      return;
    }
    const kept = Math.max(least, Math.min(most, px));
    setCourses(kept);
    localStorage.setItem("wall", String(kept));
    choose("courses");
  };
  const pull = (e: React.PointerEvent<HTMLElement>) => {
    const from = e.clientY + (heights[size] ?? 70);
    const move = (m: PointerEvent) => to(from - m.clientY);
    const ended = new AbortController();
    addEventListener("pointermove", move, ended);
    // A touch can be taken away, as by a call.
    for (const end of ["pointerup", "pointercancel"])
      addEventListener(end, () => ended.abort(), ended);
  };
  const key = useEffectEvent((e: KeyboardEvent) => {
    if (e.key === "W" && !e.ctrlKey && !e.metaKey && !e.altKey && !typing(e))
      choose(sizes[(sizes.indexOf(size) + 1) % sizes.length] ?? "line");
  });
  useEffect(() => {
    const hear = (e: KeyboardEvent) => key(e);
    addEventListener("keydown", hear);
    return () => removeEventListener("keydown", hear);
  }, []);
  return {
    size,
    height: heights[size],
    choose,
    pull,
    taller: (by: number) => to((heights[size] ?? 70) + by),
  };
}
