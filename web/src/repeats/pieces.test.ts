import { describe, expect, it } from "vitest";
import type { Page } from "../api/client";
import type { Repeat, RepeatedPiece } from "../api/repeats";
import {
  aboutPiece,
  cellText,
  makeBlocks,
  makeLayout,
  namesOf,
  sized,
  statesOfPiece,
  undecided,
} from "./pieces";

const example = { doc: "pages/a.html", from: 0, to: 9 };
const field = {
  name: "kept-by",
  type: "text" as const,
  types: ["text", "lines"],
  values: 3,
  optional: false,
  spacing: false,
};
const piece = (id: string, more: Partial<Repeat> = {}): Repeat => ({
  id,
  title: "Footer",
  kind: "frame",
  pages: 4,
  places: 4,
  bytes: 12_345,
  within: "",
  fields: [],
  example,
  ...more,
});

describe("pieces become blocks", () => {
  it("in the order in which they are listed, with what was decided", () => {
    const decided = {
      b: {
        title: "  Foot ",
        leave: ["pages/x.html"],
        rename: { "kept-by": "keeper", a: "a", c: "" },
        types: { "kept-by": "lines", since: "text" },
        drop: ["note"],
      },
    };
    const b = piece("b", { fields: [field, { ...field, name: "since" }] });
    expect(makeBlocks([piece("a"), b, piece("c")], new Set(["b", "a"]), decided)).toEqual({
      operation: "make-blocks",
      pieces: [
        { id: "a" },
        {
          id: "b",
          title: "Foot",
          leave: ["pages/x.html"],
          rename: { "kept-by": "keeper" },
          types: { "kept-by": "lines" },
          drop: ["note"],
        },
      ],
    });
  });
  it("none where none is chosen, or what was chosen is gone", () => {
    expect(makeBlocks([piece("a")], new Set(), {})).toBeNull();
    expect(makeBlocks([piece("a")], new Set(["z"]), {})).toBeNull();
  });
});

describe("names of fields", () => {
  it("are counted, but for those that are dropped", () => {
    const fields = ["a", "b", "c", "d"].map((name) => ({ ...field, name }));
    const names = namesOf(fields, {
      ...undecided,
      rename: { b: "a", c: "", d: "a" },
      drop: ["d"],
    });
    expect([...names]).toEqual([
      ["a", 2],
      ["c", 1],
    ]);
  });
});

describe("two pieces become a layout", () => {
  const foot = piece("foot", { example: { doc: "pages/a.html", from: 900, to: 950 } });
  it("the one that comes first on its page on top, whatever is listed first", () => {
    expect(makeLayout([foot, piece("top"), piece("c")], new Set(["top", "foot"]))).toEqual({
      operation: "make-layout",
      top: "top",
      bottom: "foot",
    });
  });
  it("no other number of them", () => {
    expect(makeLayout([foot, piece("top")], new Set(["top"]))).toBeNull();
    expect(makeLayout([foot], new Set(["top", "foot"]))).toBeNull();
    expect(makeLayout([foot, piece("a"), piece("b")], new Set(["foot", "a", "b"]))).toBeNull();
  });
});

describe("what is said of a piece", () => {
  it.each([
    [piece("a"), "on 4 pages, the same everywhere, saves 12 kB"],
    [piece("a", { places: 9, fields: [field] }), "9 places on 4 pages, 1 field, saves 12 kB"],
    [
      piece("a", { pages: 1, places: 1, bytes: -5, fields: [{ ...field, spacing: true }] }),
      "on 1 page, the same everywhere, saves 0 B",
    ],
  ])("%#", (p, says) => {
    expect(aboutPiece(p)).toBe(says);
  });
  it("tells where it stands, and where something else does", () => {
    const pages = ["a", "b", "c"].map((n) => ({ doc: `pages/${n}.html` })) as Page[];
    const at: RepeatedPiece = {
      piece: piece("a"),
      markup: "",
      docs: [example.doc],
      places: [example],
      odd: [{ ...example, doc: "pages/c.html" }],
    };
    expect(statesOfPiece(pages, at)).toEqual(["linked", "none", "copy"]);
  });
  it("is short", () => {
    expect([999, 1000, 999_499, 2_340_000].map(sized)).toEqual([
      "999 B",
      "1 kB",
      "999 kB",
      "2.3 MB",
    ]);
    expect(cellText(" a\n  b ")).toBe("a b");
    expect(cellText(null)).toBe("");
  });
});
