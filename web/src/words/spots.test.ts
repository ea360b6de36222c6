import { describe, expect, it } from "vitest";
import type { WordsSpot } from "../api/words";
import { belongs, inWords, leftOut, linesOf, nameOfSpot } from "./spots";

const spot = (doc: string, n: number, more: Partial<WordsSpot> = {}): WordsSpot => ({
  doc,
  n,
  kind: "text",
  of: "",
  line: 1,
  column: 1,
  before: "",
  match: "x",
  after: "",
  with: "",
  ...more,
});

describe("spots", () => {
  const spots = [spot("a", 0), spot("a", 1), spot("b", 0)];

  it("stand below their documents", () => {
    expect(linesOf(spots).map((l) => ("spots" in l ? `${l.doc} ${l.spots.length}` : l.n))).toEqual([
      "a 2",
      0,
      1,
      "b 1",
      0,
    ]);
    expect(linesOf([])).toEqual([]);
  });

  it("are left out by their names", () => {
    const without = new Set([nameOfSpot(spot("a", 1)), nameOfSpot(spot("c", 0))]);
    expect(leftOut(spots, without)).toEqual([{ doc: "a", n: 1 }]);
  });

  it("say what they belong to", () => {
    const value = (of: string) => belongs(spot("a", 0, { kind: "value", of }));
    expect(belongs(spot("a", 0))).toBe("");
    expect(belongs(spot("a", 0, { kind: "attribute", of: "alt" }))).toBe("attribute alt");
    expect(value("title")).toBe("title");
    expect(value("port-card › name")).toBe("name of port-card");
    expect(value("overrides › main/hours~1 › phone")).toBe("phone at main/hours~1");
    expect(value("copies › main/hours~1 › text")).toBe("copy at main/hours~1");
    expect(value("fields › phone › default")).toBe("default of the field phone");
    expect(value("items › 2 › label")).toBe("entry: label");
  });

  it("count documents in words", () => {
    expect(inWords("page", 1)).toBe("1 page");
    expect(inWords("page", 1200)).toBe("1,200 pages");
    expect(inWords("site", 1)).toBe("the site's values");
  });
});
