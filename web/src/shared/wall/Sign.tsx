import { useEffect, useRef } from "react";
import { useScheme } from "../scheme";
import type { State } from "../states";
import { drawBrick, readPaint } from "./draw";

/** The sign of a state, as on the wall. The word beside it says the same. */
export function Sign({
  state,
  width = 22,
  height = 12,
}: {
  state: State;
  width?: number;
  height?: number;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { dark } = useScheme();
  useEffect(() => {
    const c = ref.current?.getContext("2d");
    if (!c) return;
    c.setTransform(2, 0, 0, 2, 0, 0);
    c.clearRect(0, 0, width, height);
    drawBrick(c, readPaint(), state, 0, 0, width, height, false);
  }, [state, width, height, dark]);
  return (
    <canvas
      ref={ref}
      width={width * 2}
      height={height * 2}
      style={{ width, height, flexShrink: 0 }}
      aria-hidden
    />
  );
}
