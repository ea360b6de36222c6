import type { WinningGroup, Winners } from "../api/client";
import type { State } from "../shared/states";

/** What tells one group of a region from another. */
export function keyOfGroup(g: WinningGroup): string {
  return g.parts.map((p) => `${p.kind} ${p.rule}`).join("|") || "nothing";
}

/** What each page shows in a region, as states of the wall; of one group where one is
 *  chosen. */
export function winningStates(w: Winners | undefined, group: string): State[] {
  return (w?.of ?? []).map((i): State => {
    const g = w?.groups[i];
    if (!g || (group && keyOfGroup(g) !== group)) return "none";
    const kinds = g.parts.map((p) => p.kind);
    if (kinds.length === 0) return "hidden";
    if (kinds.includes("copy")) return "copy";
    if (kinds.includes("rule")) return "linked";
    return kinds.includes("page") ? "own" : "same";
  });
}
