import { describe, expect, it } from "vitest";
import type { RuleReading } from "../api/client";
import { goFirst } from "./goFirst";

const reading = (
  reach: string,
  outranked: [decides: string, order: number][],
  on = ["all"],
  order = 0,
) =>
  ({
    reach,
    outranked: outranked.map(([decides, order]) => ({
      rule: "other",
      block: "b",
      pages: 1,
      decides,
      order,
    })),
    rule: { on, order },
    displaced: [],
    problems: [],
  }) as unknown as RuleReading;
const pages = ["/a/", "/b/", "/c/"];

describe("letting a rule go first", () => {
  it.each([
    [
      "a higher order, where that decides",
      reading("ll-", [
        ["order", 4],
        ["order", 7],
      ]),
      [{ keys: ["order"], value: 8 }],
    ],
    ["where the name decides too", reading("l--", [["name", 0]]), [{ keys: ["order"], value: 1 }]],
    [
      "the pages by name, where the others are more specific",
      reading("l-l", [["specificity", 0]], ["layout:port"], 3),
      [{ keys: ["on"], value: ["layout:port", "page:/a/", "page:/c/"] }],
    ],
    [
      "both, where the other names the page too",
      reading("-l-", [["specificity", 5]], ["all", "page:/b/"], 5),
      [
        { keys: ["on"], value: ["all", "page:/b/"] },
        { keys: ["order"], value: 6 },
      ],
    ],
    ["nothing, where it takes a page", reading("lt-", [["order", 1]]), null],
    ["nor where it displaces something", reading("ld-", [["order", 1]]), null],
    ["nor where it loses none", reading("ff-", []), null],
  ])("needs %s", (_, read, edits) => {
    expect(goFirst(read, pages)).toEqual(edits);
  });

  it("names no more than fifty pages", () => {
    const many = Array.from({ length: 51 }, (_, i) => `/p${i}/`);
    expect(goFirst(reading("l".repeat(50), [["specificity", 0]]), many)).not.toBeNull();
    expect(goFirst(reading("l".repeat(51), [["specificity", 0]]), many)).toBeNull();
  });
});
