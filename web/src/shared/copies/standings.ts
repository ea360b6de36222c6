import type { Schemas } from "../../api/client";
import { useCopies } from "../../api/copies";
import type { State } from "../states";

export type Standing = Schemas["Standing"];

/** What a copy is towards its block, in a word or two. */
export const standingWords: Record<Standing, string> = {
  unchanged: "as it was when detached",
  behind: "behind its block",
  edited: "changed here",
  both: "changed here, and behind",
  unknown: "of unknown origin",
};

/** The state that a page with such a copy is in on the wall. */
export const standingStates: Record<Standing, State> = {
  unchanged: "copy",
  behind: "change",
  edited: "own",
  both: "held",
  unknown: "hidden",
};

/** The standings, those first that have something to decide. */
export const standingOrder: Standing[] = ["both", "behind", "unknown", "edited", "unchanged"];

/** The same in a sentence. */
export const standingSentences: Record<Standing, string> = {
  unchanged: "It holds what it came from, and the block shows the same there today.",
  behind: "It holds what it came from; the block has moved on since.",
  edited: "It has been changed on this page; the block is what it was.",
  both: "It has been changed on this page, and the block has moved on since.",
  unknown: "What it came from cannot be told, so it can only be compared with the block as it is.",
};

/** How the copy at an address of a page stands; undefined where there is none. */
export function useStanding(doc: string, address: string): Standing | undefined {
  const { data } = useCopies();
  return data?.find((c) => c.doc === doc && c.address === address)?.standing;
}
