import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import {
  asValues,
  between,
  bySection,
  cellOf,
  chosenOf,
  filtering,
  idleIn,
  pasted,
  put,
  type Edits,
} from "./grid";

const cell = (
  text: string,
  source: Schemas["ValueCell"]["source"],
  otherwise = text,
): Schemas["ValueCell"] => ({ text, source, otherwise, doc: "d" });
const rows: Schemas["ValueRow"][] = ["a", "b"].map((doc, i) => ({
  doc,
  address: "main/x~1",
  page: `/${doc}/`,
  title: doc,
  cells: [
    i === 0 ? cell("own", "override", "usual") : cell("usual", "default"),
    cell("n", "argument", ""),
  ],
}));
const table = { fields: [{ name: "w" }, { name: "n" }], rows } as Schemas["ValueTable"];
const none: Edits = new Map();

describe("the table of values", () => {
  it("knows the cells between two corners", () => {
    expect(between({ row: 1, col: 1 }, { row: 0, col: 0 })).toHaveLength(4);
  });
  it("keeps edits that change something", () => {
    const all = between({ row: 0, col: 0 }, { row: 1, col: 0 });
    const own = put(table, rows, none, all, () => "own");
    expect(asValues(own)).toEqual([{ doc: "b", address: "main/x~1", field: "w", text: "own" }]);
    const back = put(table, rows, own, all, () => null);
    expect(asValues(back)).toEqual([{ doc: "a", address: "main/x~1", field: "w" }]);
    expect(cellOf(table, rows, back, { row: 0, col: 0 })).toMatchObject({
      text: "usual",
      own: false,
      edited: true,
    });
    expect(cellOf(table, rows, own, { row: 1, col: 0 })).toMatchObject({
      text: "own",
      own: true,
      edited: true,
    });
    expect(put(table, rows, back, [{ row: 0, col: 0 }], () => "own").size).toBe(0);
    expect(put(table, rows, none, [{ row: 7, col: 0 }], () => "x").size).toBe(0);
  });
  it("finds what says what would show anyway", () => {
    const idle = rows.map((r) => ({
      ...r,
      cells: [cell("usual", "override", "usual"), cell("usual", "default", "usual")],
    }));
    expect(idleIn(table, idle, none)).toEqual([
      { row: 0, col: 0 },
      { row: 1, col: 0 },
    ]);
    expect(
      idleIn(
        table,
        idle,
        put(table, idle, none, [{ row: 0, col: 0 }], () => null),
      ),
    ).toEqual([{ row: 1, col: 0 }]);
    expect(idleIn(table, rows, none)).toEqual([]);
  });
  it("stands under the sections of the site, those of a single page in front", () => {
    const at = (page: string) => ({ ...rows[0], page }) as Schemas["ValueRow"];
    const got = bySection([
      at("/"),
      at("/about/"),
      at("/ports/a/"),
      at("/ports/b/"),
      at("/ports/b/"),
      at("/where/"),
    ]);
    expect(got.rows.map((r) => r.page)).toEqual([
      "/",
      "/about/",
      "/where/",
      "/ports/a/",
      "/ports/b/",
      "/ports/b/",
    ]);
    expect(got.items).toEqual([
      { section: "", count: 3 },
      { row: 0 },
      { row: 1 },
      { row: 2 },
      { section: "ports", count: 3 },
      { row: 3 },
      { row: 4 },
      { row: 5 },
    ]);
    expect(bySection([at("/ports/a/"), at("/ports/b/")]).items).toEqual([{ row: 0 }, { row: 1 }]);
  });
  it("chooses cells that do not lie together", () => {
    const range = { from: { row: 0, col: 1 }, to: { row: 1, col: 1 } };
    expect(
      chosenOf(
        range,
        [
          { row: 4, col: 1 },
          { row: 1, col: 1 },
          { row: 9, col: 1 },
        ],
        9,
      ),
    ).toEqual([
      { row: 0, col: 1 },
      { row: 1, col: 1 },
      { row: 4, col: 1 },
    ]);
  });
  it("filters by all words, or by those of either side of a comma", () => {
    const rope = filtering("gull rope, tide ");
    expect(["Gull on a rope", "high TIDE", "gull", ""].map(rope)).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(filtering(" , ")("anything")).toBe(true);
  });
  it("reads what was copied from a spreadsheet", () => {
    expect(pasted("a\tb\r\nc\t\r\n")).toEqual([
      ["a", "b"],
      ["c", ""],
    ]);
    expect(pasted('"two\nlines"\t7\n"say ""so"""\t8')).toEqual([
      ["two\nlines", "7"],
      ['say "so"', "8"],
    ]);
    expect(pasted('"quoted" and more\tx\n5"\ty')).toEqual([
      ['"quoted" and more', "x"],
      ['5"', "y"],
    ]);
    expect(pasted("")).toEqual([]);
  });
});
