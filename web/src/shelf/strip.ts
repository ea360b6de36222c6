import { standing, type State } from "../shared/states";

/** What a strip is drawn in: 400 by 14, of at most this many cells. */
const cells = 66;
const size = { width: 400, height: 14, joint: 1.6 };

/** What a cell shows of the pages that it stands for: the first of these that is
 *  among them. */
const telling: State[] = ["copy", "own", "linked"];
const heights: Partial<Record<State, number>> = { copy: 8, none: 6, hidden: 6 };

/** Where a block stands as outlines, one path for each state: the pages of the site
 *  from left to right, several to a cell where there are many. */
export function strip(row: string): [State, string][] {
  const states = standing(row);
  const count = Math.min(states.length, cells);
  const step = size.width / Math.max(count, 1);
  const out = new Map<State, string>();
  for (let i = 0; i < count; i++) {
    const slice = states.slice(
      Math.floor((i * states.length) / count),
      Math.floor(((i + 1) * states.length) / count),
    );
    const shown = telling.find((s) => slice.includes(s)) ?? slice[0] ?? "none";
    const height = heights[shown] ?? size.height;
    const width = Math.max(step - size.joint, 1);
    out.set(
      shown,
      `${out.get(shown) ?? ""}M${(i * step).toFixed(1)} ${size.height - height}h${width.toFixed(1)}v${height}h${(-width).toFixed(1)}z`,
    );
  }
  return [...out];
}
