// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from "vitest";
import type { BlockSummary } from "../api/client";
import { keepShelf, keptShelf, planksOf } from "./order";

const block = (title: string, category: string, pages = 0, changed = 0): BlockSummary => ({
  name: title.toLowerCase().replaceAll(" ", "-"),
  title,
  category,
  about: "",
  states: "",
  pages,
  changed,
});
const blocks = [
  block("Tide table", "Ports", 3, 9),
  block("Card 10", "Ports", 8, 1),
  block("Card 9", "Ports", 5),
  block("Zebra", "Frame", 1, 4),
  block("Lone", "", 40),
];

describe("the order of the shelf", () => {
  const names = (filter: string, by: "title" | "use" | "change") =>
    planksOf(blocks, filter, by).map(([c, list]) => `${c}: ${list.map((b) => b.title).join(", ")}`);

  it("is by title, what frames pages first", () => {
    expect(names("", "title")).toEqual([
      "Frame: Zebra",
      "Other: Lone",
      "Ports: Card 9, Card 10, Tide table",
    ]);
  });

  it("is by use or by change, categories too", () => {
    expect(names("", "use")).toEqual([
      "Other: Lone",
      "Ports: Card 10, Card 9, Tide table",
      "Frame: Zebra",
    ]);
    expect(names("", "change")).toEqual([
      "Ports: Tide table, Card 10, Card 9",
      "Frame: Zebra",
      "Other: Lone",
    ]);
  });

  it("is filtered by words in any order", () => {
    expect(names("ports CARD", "title")).toEqual(["Ports: Card 9, Card 10"]);
    expect(names("tide-table", "title")).toEqual(["Ports: Tide table"]);
    expect(names("gone", "title")).toEqual([]);
  });

  describe("kept by the browser", () => {
    beforeEach(() => localStorage.clear());
    it("comes back for its site", () => {
      const kept = { by: "use", pictures: true, folded: ["Ports"] } as const;
      keepShelf("a", { ...kept, folded: [...kept.folded] });
      expect(keptShelf("a")).toEqual(kept);
      expect(keptShelf("b")).toEqual({ by: "title", pictures: false, folded: [] });
    });
    it("is as usual where something else was kept", () => {
      for (const bad of ["{", '{"by":"x","pictures":1,"folded":"a"}', '{"folded":[1]}']) {
        localStorage.setItem("shelf a", bad);
        expect(keptShelf("a")).toEqual({ by: "title", pictures: false, folded: [] });
      }
    });
  });
});
