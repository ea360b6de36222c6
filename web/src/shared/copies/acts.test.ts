import { describe, expect, it } from "vitest";
import { actsOf, operationOf, spotKey, verbs } from "./acts";
import { resolved } from "./Merging";

const spot = (doc: string) => ({ doc, address: "main/a~1", title: doc, of: "a" });
const bare = (doc: string) => ({ doc, address: "main/a~1" });
const none = {
  filled: false,
  inBlock: false,
  settled: {},
  swap: { to: "", fields: null },
  rest: "goes" as const,
};

describe("what can be done to a placement", () => {
  it("hangs on what it is", () => {
    expect(actsOf({ kind: "linked" })).toEqual(["detach", "replace"]);
    expect(actsOf({ kind: "copy", standing: "unchanged" })).toEqual(["link"]);
    expect(actsOf({ kind: "copy", standing: "unknown" })).toEqual(["link"]);
    expect(actsOf({ kind: "copy", standing: "behind" })).toEqual(["update", "link"]);
    expect(actsOf({ kind: "copy", standing: "both" })).toEqual(["update", "link"]);
    expect(actsOf({ kind: "hidden" })).toEqual([]);
  });

  it("is named with how many it is done to", () => {
    expect([verbs.detach(1), verbs.detach(3)]).toEqual(["Detach", "Detach 3"]);
    expect([verbs.link(1), verbs.link(3)]).toEqual(["Link again", "Link 3 again"]);
    expect(verbs.update(2)).toBe("Update 2 from the block");
  });
});

describe("the operation of an act", () => {
  it("takes the spots and nothing else of what is known of them", () => {
    expect(operationOf("detach", [spot("p"), spot("q")], none)).toEqual({
      operation: "detach",
      spots: [bare("p"), bare("q")],
    });
    expect(operationOf("detach", [spot("p")], { ...none, filled: true })).toEqual({
      operation: "detach",
      spots: [bare("p")],
      filled: true,
    });
    const inBlock = { ...none, inBlock: true };
    expect(operationOf("detach", [spot("p")], inBlock)).toHaveProperty("in_block", true);
    expect(operationOf("detach", [spot("p"), spot("q")], inBlock)).not.toHaveProperty("in_block");
    expect(operationOf("link", [spot("p")], none)).toEqual({
      operation: "link",
      spots: [bare("p")],
    });
  });

  it("sends what was settled only where all is", () => {
    const settled = {
      [spotKey(spot("p"))]: { choices: [{ take: "copy" as const }, undefined], seen: "1" },
      [spotKey(spot("q"))]: { choices: [{ take: "block" as const }], seen: "2" },
    };
    expect(operationOf("update", [spot("p"), spot("q"), spot("r")], { ...none, settled })).toEqual({
      operation: "update",
      copies: [bare("p"), { ...bare("q"), choices: [{ take: "block" }], seen: "2" }, bare("r")],
    });
  });

  it("waits until the block to put there is chosen", () => {
    expect(operationOf("replace", [spot("p")], none)).toBeNull();
    const to = { to: "b", fields: null };
    expect(operationOf("replace", [spot("p")], { ...none, swap: to })).toEqual({
      operation: "replace",
      block: "a",
      to: "b",
      spots: [bare("p")],
    });
    const fields = { x: "y" };
    expect(
      operationOf("replace", [spot("p")], { ...none, swap: { to: "b", fields } }),
    ).toHaveProperty("fields", fields);
  });
});

describe("a merge", () => {
  const piece = (text: string) => ({ text, conflict: false, base: "", copy: "", block: "" });
  const conflict = { text: "", conflict: true, base: "was", copy: "mine", block: "theirs" };
  it("has in each conflict what was taken there", () => {
    const pieces = [piece("a "), conflict, piece(" b "), conflict];
    const text = (...choices: Parameters<typeof resolved>[1]) => resolved(pieces, choices);
    expect(text()).toBe("a was b was");
    expect(text({ take: "copy" }, { take: "block" })).toBe("a mine b theirs");
    expect(text({ take: "both" }, { take: "text", text: "own" })).toBe("a minetheirs b own");
    expect(text(undefined, { take: "text" })).toBe("a was b ");
  });
});
