import { describe, expect, it } from "vitest";
import type { MenuItem } from "../api/client";
import { doubled, end, flat, nested, put, standsAt, step, type Entry } from "./tree";

const item = (label: string, items: MenuItem[] = []): MenuItem => ({
  label,
  to: "",
  badge: "",
  note: "",
  icon: "",
  icon_size: "",
  image: "",
  audience: "",
  from: "",
  until: "",
  panel: "",
  new_tab: false,
  was: "",
  items,
});
const tree = [item("a", [item("a1"), item("a2", [item("x")])]), item("b"), item("c")];
const drawn = (list: Entry[]) => list.map((e) => "-".repeat(e.depth) + e.item.label).join(" ");

describe("a menu as a list", () => {
  it("is the tree again", () => {
    expect(nested(flat(tree))).toEqual(tree);
    expect(drawn(flat(tree))).toBe("a -a1 -a2 --x b c");
  });
  it("doubles an entry with all under it, as new ones", () => {
    const list = flat(tree.map((i) => ({ ...i, was: "0" })));
    const two = doubled(list, 0);
    expect(drawn(two.list)).toBe("a -a1 -a2 --x a -a1 -a2 --x b c");
    expect(two.list[4]).toMatchObject({ id: two.id, item: { label: "a", was: "" } });
    expect(new Set(two.list.map((e) => e.id)).size).toBe(10);
  });
  it("says where an entry stands", () => {
    const list = flat(tree);
    expect(list.map((e) => standsAt(list, e.id))).toEqual([
      "a is 1 of 3 at the top",
      "a1 is 1 of 2 under a",
      "a2 is 2 of 2 under a",
      "x is 1 of 1 under a2",
      "b is 2 of 3 at the top",
      "c is 3 of 3 at the top",
    ]);
    expect(standsAt(list, -1)).toBe("");
  });
  it("moves entries with all under them", () => {
    const list = flat(tree);
    expect(end(list, 0)).toBe(4);
    expect(drawn(put(list, 2, 0, 0))).toBe("a2 -x a -a1 b c");
    expect(drawn(put(list, 5, 1, 0))).toBe("a -c -a1 -a2 --x b"); // between an entry and what is under it
    expect(drawn(put(list, 4, 0, 3))).toBe("b a -a1 -a2 --x c"); // nothing to stand under
  });
  it("steps among neighbours, in and out", () => {
    const list = flat(tree);
    const at = (label: string, l = list) => l.findIndex((e) => e.item.label === label);
    expect(drawn(step(list, at("a"), "down"))).toBe("b a -a1 -a2 --x c");
    expect(drawn(step(list, at("b"), "up"))).toBe("b a -a1 -a2 --x c");
    expect(drawn(step(list, at("b"), "in"))).toBe("a -a1 -a2 --x -b c");
    expect(drawn(step(list, at("a1"), "out"))).toBe("a -a2 --x a1 b c");
    expect(drawn(step(list, at("a2"), "out"))).toBe("a -a1 a2 -x b c");
    for (const [label, way] of [
      ["a", "up"],
      ["c", "down"],
      ["a1", "up"],
      ["a1", "in"],
      ["a", "out"],
      ["a2", "down"],
    ] as const)
      expect(step(list, at(label), way)).toBe(list);
  });
  it("stays a tree whatever is moved where", () => {
    for (let seed = 1; seed < 3000; seed++) {
      const list = flat(tree);
      const next = put(list, seed % 6, (seed * 7) % 6, (seed * 13) % 4);
      expect(next.map((e) => e.item.label).sort()).toEqual(list.map((e) => e.item.label).sort());
      next.forEach((e, i) => expect(e.depth).toBeLessThanOrEqual((next[i - 1]?.depth ?? -1) + 1));
    }
  });
});
