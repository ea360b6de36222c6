import { describe, expect, it } from "vitest";
import { strip } from "./strip";

/** The cells of a strip from left to right, by the state that each is drawn as. */
function drawn(row: string) {
  return strip(row)
    .flatMap(([state, d]) =>
      d
        .split("M")
        .slice(1)
        .map((c) => ({ state, x: Number(c.split(" ")[0]), height: Number(/v(\d+)/.exec(c)?.[1]) })),
    )
    .sort((a, b) => a.x - b.x);
}

describe("the strip of where a block stands", () => {
  it("has a cell for each page, in their order, lower where the block does not show", () => {
    expect(drawn("lo-ch").map((c) => c.state)).toEqual(["linked", "own", "none", "copy", "hidden"]);
    const [linked, own, none, copy, hidden] = drawn("lo-ch").map((c) => c.height);
    expect(linked).toBe(own);
    expect(none).toBe(hidden);
    expect(copy).toBeGreaterThan(none ?? 0);
    expect(copy).toBeLessThan(linked ?? 0);
  });

  it("shows what is rare where a cell stands for many pages", () => {
    const row = `${"l".repeat(500)}c${"l".repeat(499)}`;
    const cells = drawn(row);
    expect(cells.length).toBeLessThan(100);
    const copy = cells.findIndex((c) => c.state === "copy");
    expect(copy / cells.length).toBeCloseTo(0.5, 1);
    expect(cells.filter((c) => c.state === "copy")).toHaveLength(1);
  });

  it("never leaves its box, and is empty for a site without pages", () => {
    for (const n of [1, 5, 66, 67, 1000])
      for (const d of drawn("l".repeat(n))) expect(d.x).toBeLessThan(400);
    expect(strip("")).toEqual([]);
  });
});
