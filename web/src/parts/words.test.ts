import { expect, test } from "vitest";
import type { Arrival } from "../api/parts";
import { conflicts, mergeable, summary, updates, waysOf } from "./words";

const arrival = (more: Partial<Arrival>): Arrival => ({
  id: "blocks/a.html",
  kind: "block",
  name: "a",
  title: "A",
  as: "blocks/a.html",
  state: "different",
  take: "mine",
  open: true,
  free: "a-2",
  for: [],
  docs: [],
  ...more,
});
const doc = (conflict: boolean) => ({
  path: "blocks/a.html",
  mine: "a",
  theirs: "b",
  mine_size: 1,
  theirs_size: 1,
  pieces: [{ text: conflict ? "" : "a", conflict, base: "", mine: "a", theirs: "b" }],
});
const ways = (a: Arrival) => waysOf(a).map(([take]) => take);

test("only what can be done with what comes is offered", () => {
  expect(ways(arrival({ state: "equal" }))).toEqual([]);
  expect(ways(arrival({ state: "new" }))).toEqual(["theirs", "mine"]);
  expect(ways(arrival({}))).toEqual(["mine", "theirs", "name"]);
  expect(ways(arrival({ free: "" }))).toEqual(["mine", "theirs"]);
  expect(ways(arrival({ state: "both", docs: [doc(true)] }))).toEqual([
    "mine",
    "theirs",
    "merged",
    "name",
  ]);
});

test("both are joined where all documents have a common base", () => {
  expect(mergeable(arrival({ docs: [doc(true), { ...doc(false), pieces: [] }] }))).toBe(false);
  expect(conflicts(arrival({ docs: [doc(true), doc(false), doc(true)] }))).toBe(2);
});

test("the summary counts, and says what nobody decided", () => {
  const list = [
    arrival({ state: "new", open: false, id: "1" }),
    arrival({ id: "2" }),
    arrival({ state: "newer", open: false, id: "3" }),
    arrival({ id: "4" }),
  ];
  expect(summary(list, new Map())).toBe(
    "1 new, 3 different here. 2 names are taken: mine stays unless you decide.",
  );
  expect(summary(list, new Map([["4", { id: "4", take: "mine" as const }]]))).toContain(
    "One name is taken",
  );
  expect(summary([arrival({ state: "equal", open: false })], new Map())).toBe("1 the same here.");
});

test("what the library changed is counted, also where it was changed here as well", () => {
  const unit = (state: "equal" | "newer" | "both" | "edited") => ({
    id: state,
    of: state,
    title: state,
    state,
  });
  expect(
    updates({
      site: "lib",
      title: "Lib",
      there: true,
      units: [unit("equal"), unit("newer"), unit("both"), unit("edited")],
    }),
  ).toBe(2);
});
