import type { Operation, Schemas } from "../../api/client";
import type { Choice } from "./Merging";

type Spot = Schemas["Spot"];

/** What is done to placements and copies. */
export type Act = "detach" | "link" | "update";

/** What was settled of one copy's merge. */
export interface Settled {
  choices: (Choice | undefined)[];
  seen: string;
}

export const spotKey = (s: Spot) => `${s.doc} ${s.address}`;

/** What the button says, for so many. */
export const verbs: Record<Act, (n: number) => string> = {
  detach: (n) => (n === 1 ? "Detach" : `Detach ${n}`),
  link: (n) => (n === 1 ? "Link again" : `Link ${n} again`),
  update: (n) => (n === 1 ? "Bring up to the block" : `Bring ${n} up to the block`),
};

/** The acts that are open to what is linked and to a copy. */
export function actsOf(p: { kind: string; standing?: Schemas["Standing"] }): Act[] {
  if (p.kind === "linked") return ["detach"];
  if (p.kind !== "copy") return [];
  return p.standing === "behind" || p.standing === "both" ? ["update", "link"] : ["link"];
}

/** The operation that does an act to spots. */
export function operationOf(
  act: Act,
  spots: Spot[],
  { filled, settled }: { filled: boolean; settled: Record<string, Settled> },
): Operation {
  const bare = spots.map(({ doc, address }) => ({ doc, address }));
  switch (act) {
    case "detach":
      return { operation: "detach", spots: bare, ...(filled && { filled }) };
    case "link":
      return { operation: "link", spots: bare };
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
