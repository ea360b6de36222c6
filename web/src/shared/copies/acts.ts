import type { Operation, Schemas } from "../../api/client";
import type { Settled } from "./Merging";

type Spot = Schemas["Spot"];

/** What is done to placements and copies. */
export type Act = "detach" | "link" | "update" | "replace";

/** What becomes of what was written into a copy and fits no field of its block. */
export type Rest = Schemas["Rest"];

/** The block to put in the place of one, and where its values go; null as it comes. */
export interface Swap {
  to: string;
  fields: Record<string, string> | null;
}

export const spotKey = (s: Spot) => `${s.doc} ${s.address}`;

/** What the button says, for so many. */
export const verbs: Record<Act, (n: number) => string> = {
  detach: (n) => (n === 1 ? "Detach" : `Detach ${n}`),
  link: (n) => (n === 1 ? "Link again" : `Link ${n} again`),
  update: (n) => (n === 1 ? "Update from the block" : `Update ${n} from the block`),
  replace: (n) => (n === 1 ? "Replace" : `Replace ${n}`),
};

/** The acts that are open to what is linked and to a copy. */
export function actsOf(p: { kind: string; standing?: Schemas["Standing"] }): Act[] {
  if (p.kind === "linked") return ["detach", "replace"];
  if (p.kind !== "copy") return [];
  return p.standing === "behind" || p.standing === "both" ? ["update", "link"] : ["link"];
}

/** The operation that does an act to spots; null where something is to be chosen first. */
export function operationOf(
  act: Act,
  spots: (Spot & { of: string })[],
  {
    filled,
    inBlock,
    settled,
    swap,
    rest,
  }: {
    filled: boolean;
    inBlock: boolean;
    settled: Record<string, Settled>;
    swap: Swap;
    rest: Rest;
  },
): Operation | null {
  const bare = spots.map(({ doc, address }) => ({ doc, address }));
  switch (act) {
    case "detach":
      return {
        operation: "detach",
        spots: bare,
        ...(filled && { filled }),
        ...(inBlock && bare.length === 1 && { in_block: true }),
      };
    case "replace":
      return swap.to && spots[0]
        ? {
            operation: "replace",
            block: spots[0].of,
            to: swap.to,
            spots: bare,
            ...(swap.fields && { fields: swap.fields }),
          }
        : null;
    case "link":
      return { operation: "link", spots: bare, ...(rest !== "goes" && { rest }) };
    case "update":
      return {
        operation: "update",
        copies: bare.map((s) => {
          const of = settled[spotKey(s)];
          return of && of.choices.length > 0 && of.choices.every((c) => c !== undefined)
            ? { ...s, choices: of.choices, seen: of.seen }
            : s;
        }),
      };
  }
}
