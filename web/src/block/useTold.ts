import { useMemo } from "react";
import type { Block, Finding, Proposal } from "../api/client";

/** What is marked in a block's documents: what keeps the edit from being saved, and what can be
 *  saved and does not work, of what is not edited as it is saved. */
export function useTold(
  proposal: Proposal | null,
  block: Block,
  docs: { path: string; dirty: boolean }[],
): Finding[] {
  const unsaved = docs.flatMap((d) => (d.dirty ? [d.path] : [])).join(" ");
  return useMemo(
    () => [
      ...(proposal?.problems ?? []),
      ...(proposal?.faults ?? []),
      ...(block.faults ?? []).filter((f) => !unsaved.split(" ").includes(f.path)),
    ],
    [proposal, block.faults, unsaved],
  );
}
