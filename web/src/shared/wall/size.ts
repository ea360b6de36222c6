/** How high the wall stands: its counts over one line of bricks, its courses, or most of the window. */
export type Size = "line" | "courses" | "tall";

export const sizes: readonly Size[] = ["line", "courses", "tall"];

/** The place whose wall has a height of its own: one of the bench's, a tab of a block, or the peek. */
export function roomOf(path: string, query: URLSearchParams): string {
  if (query.has("peek")) return "peek";
  const [, , place = "blocks"] = path.split("/");
  return place === "blocks" ? `blocks ${query.get("tab") ?? "make"}` : place;
}

/** Where the wall itself is what one works with. */
const read = new Set(["rules", "roll-out", "blocks placements"]);

/** Where it says nothing until something is asked for. */
const quiet = new Set(["checks", "review", "reference", "site", "files", "parts", "words"]);

/** The height that the wall has in a place until one is chosen, in a window of so many pixels. */
export function usualSize(
  room: string,
  asked: boolean,
  window: { width: number; height: number },
): Size {
  const small = window.width < 820 || window.height < 560; // panes stand one above the other
  if (!asked || quiet.has(room) || small) return "line";
  return read.has(room) || window.height >= 1000 ? "courses" : "line";
}

const key = "wall sizes";

/** The heights that were chosen by hand, by place. */
export function chosenSizes(): Record<string, Size> {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "{}") as Record<string, Size>;
    return Object.fromEntries(Object.entries(kept).filter(([, s]) => sizes.includes(s)));
  } catch {
    return {}; // what another version kept, or a hand
  }
}

/** Keeps the height that was chosen in a place. */
export function keepSize(room: string, size: Size) {
  localStorage.setItem(key, JSON.stringify({ ...chosenSizes(), [room]: size }));
}
