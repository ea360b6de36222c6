import type { Arrival, Decision, Library, Unit } from "../api/parts";

/** What units are, in the order in which they are listed. */
export const kinds: [kind: Unit["kind"], many: string, one: string][] = [
  ["block", "Blocks", "block"],
  ["script", "Scripts", "script"],
  ["layout", "Layouts", "layout"],
  ["menu", "Menus", "menu"],
  ["rule", "Rules", "rule"],
  ["page", "Pages", "page"],
  ["file", "Files", "file"],
  ["site-value", "Values of the site", "value of the site"],
  ["page-field", "Fields of pages", "field of pages"],
];

/** What one unit is. */
export const kindOf = (u: Pick<Unit, "kind">) => kinds.find(([k]) => k === u.kind)?.[2] ?? "";

/** How what comes stands to what is here. */
export const states: Record<Arrival["state"], string> = {
  new: "new here",
  equal: "the same here",
  different: "something else here",
  newer: "changed there since it came",
  edited: "changed here since it came",
  both: "changed there and here",
};

/** What can be done with what comes, the likeliest first; nothing where it is the same here. */
export function waysOf(a: Arrival): [Decision["take"], string][] {
  if (a.state === "equal") return [];
  if (a.state === "new")
    return [
      ["theirs", "Take it"],
      ["mine", "Leave it out"],
    ];
  const out: [Decision["take"], string][] = [
    ["mine", "Keep mine"],
    ["theirs", "Take theirs"],
  ];
  if (mergeable(a)) out.push(["merged", "Merge both"]);
  if (a.free) out.push(["name", "Another name"]);
  return out;
}

/** Whether what both came from is known, so that both can be joined. */
export const mergeable = (a: Arrival) =>
  a.docs.length > 0 && a.docs.every((d) => d.pieces.length > 0);

/** How many places of a merge say different things on both sides. */
export const conflicts = (a: Arrival) =>
  a.docs.reduce((n, d) => n + d.pieces.filter((p) => p.conflict).length, 0);

/** What is done with what comes: what was decided, else what the server does. */
export const takeOf = (a: Arrival, decided: Decision | undefined): Decision["take"] =>
  decided?.take ?? a.take;

/** What the ones who bring something in are told above the list. */
export function summary(list: Arrival[], decided: Map<string, Decision>): string {
  const count = (state: Arrival["state"][]) => list.filter((a) => state.includes(a.state)).length;
  const open = list.filter((a) => a.open && !decided.has(a.id)).length;
  const words = [
    [count(["new"]), "new"],
    [count(["equal"]), "the same here"],
    [count(["different", "newer", "edited", "both"]), "different here"],
  ] as const;
  const said = words.filter(([n]) => n > 0).map(([n, w]) => `${n} ${w}`);
  return `${said.join(", ")}.${
    open > 0
      ? ` ${open === 1 ? "One name is" : `${open} names are`} taken: mine stays unless you decide.`
      : ""
  }`;
}

/** How many blocks of a library are others there now. */
export const updates = (l: Library) =>
  l.units.filter((u) => u.state === "newer" || u.state === "both").length;
