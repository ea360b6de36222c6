import type { Effect } from "../api/client";

/** The states that a page can be in, on the wall and everywhere else. */
export type State =
  "linked" | "own" | "copy" | "change" | "held" | "hidden" | "same" | "break" | "none";

/** What letters of the server's rows mean; see the contract. */
const letters: Record<string, State> = {
  l: "linked",
  o: "own",
  c: "copy",
  h: "hidden",
  "-": "none",
};
const effects: Record<string, Effect> = {
  c: "changes",
  r: "removed",
  h: "held",
  p: "copied",
  i: "hidden",
  s: "same",
  "-": "untouched",
};

/** States of pages from a block's standing. */
export function standing(row: string): State[] {
  return Array.from(row, (l) => letters[l] ?? "none");
}

/** States of pages from an impact; what breaks comes before what changes. A page that an edit
 *  reaches and does not change is as little in question as one that it does not reach. */
export function effectStates(row: string): State[] {
  return Array.from(row, (l) => {
    if (l !== "-" && l === l.toUpperCase()) return "break";
    const state = stateOfEffect[effects[l] ?? "untouched"];
    return state === "same" ? "none" : state;
  });
}

/** The state of a page on which an edit has an effect. */
export const stateOfEffect: Record<Effect, State> = {
  added: "change",
  removed: "change",
  changes: "change",
  held: "held",
  copied: "copy",
  hidden: "hidden",
  same: "same",
  untouched: "none",
};

const reaches: Record<string, State> = {
  t: "linked",
  d: "own",
  l: "held",
  f: "copy",
  m: "hidden",
  x: "hidden",
  h: "hidden",
  "-": "none",
};

/** States of pages from what a rule would do on them. */
export function reachStates(row: string): State[] {
  return Array.from(row, (l) => reaches[l] ?? "none");
}

const words: Record<
  | "stands"
  | "would"
  | "did"
  | "differs"
  | "page"
  | "takes"
  | "wins"
  | "choose"
  | "type"
  | "menu"
  | "loads"
  | "shows"
  | "says"
  | "repeats"
  | "copies",
  Partial<Record<State, string>>
> = {
  stands: {
    linked: "linked",
    own: "own values",
    copy: "one-off copies",
    hidden: "hidden, or no such region",
    none: "not there",
  },
  would: {
    change: "would change",
    held: "hold",
    copy: "copies",
    hidden: "hide it or lack the region",
    same: "not touched",
    break: "would break",
    none: "not touched",
  },
  did: { change: "changed", none: "not changed" },
  takes: {
    linked: "take it",
    own: "take it in place of something",
    held: "lose it to another rule",
    copy: "fill it themselves",
    hidden: "left out",
    none: "not named",
  },
  wins: {
    linked: "by a rule",
    own: "the page's own text",
    copy: "one-off copies",
    same: "the layout's own",
    hidden: "nothing there",
    none: "others",
  },
  choose: {
    linked: "chosen",
    change: "get it",
    same: "have it already",
    hidden: "cannot have it",
    none: "others",
  },
  type: { linked: "are of it", none: "others" },
  menu: { linked: "show it", none: "others" },
  shows: { linked: "show it", none: "do not" },
  says: { linked: "say it", none: "do not" },
  repeats: { linked: "have it", copy: "have something else there", none: "do not" },
  loads: { linked: "load it", none: "do not" },
  copies: {
    change: "behind",
    held: "changed here, and behind",
    own: "changed here",
    copy: "as when detached",
    hidden: "of unknown origin",
    none: "hold none",
  },
  page: { linked: "this page", none: "others" },
  differs: {
    change: "differ from live",
    break: "break",
    held: "hold",
    copy: "copies",
    hidden: "hide it or lack the region",
    same: "not touched",
    none: "not touched",
  },
};

export type Question = keyof typeof words;

/** The order of the legend. */
export const legendOrder: State[] = [
  "break",
  "change",
  "held",
  "linked",
  "own",
  "copy",
  "hidden",
  "same",
  "none",
];

/** What a state is called, for the question that the wall answers. */
export function wordFor(question: Question, state: State): string {
  return words[question][state] ?? state;
}

/** Counts how often each state occurs. */
export function countStates(states: State[]): Map<State, number> {
  const out = new Map<State, number>();
  for (const s of states) out.set(s, (out.get(s) ?? 0) + 1);
  return out;
}
