import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { fromCsv, toCsv } from "./csv";
import { asValues } from "./grid";

const cell = (
  text: string,
  source: Schemas["ValueCell"]["source"],
  otherwise = text,
): Schemas["ValueCell"] => ({ text, source, otherwise, doc: "d" });
const row = (
  page: string,
  address: string,
  ...cells: Schemas["ValueCell"][]
): Schemas["ValueRow"] => ({ page, address, doc: `pages${page}`, title: page, cells });
const table = {
  fields: [{ name: "w" }, { name: "n" }],
  rows: [
    row("/a/", "main/x~1", cell('say "x", y', "override", "usual"), cell("", "none")),
    row("/b/", "main/x~1", cell("usual", "default"), cell("2", "argument", "")),
    row("/b/", "main/x~2", cell("usual", "default"), cell("", "none")),
  ],
} as Schemas["ValueTable"];
const none = new Map<string, string | null>();

describe("values as CSV", () => {
  it("says every value, and the same again changes nothing", () => {
    const text = toCsv(table);
    expect(text).toBe(
      '(page),(placement),w,n\n/a/,main/x~1,"say ""x"", y",\n/b/,main/x~1,usual,2\n/b/,main/x~2,usual,\n',
    );
    expect(fromCsv(table, `\ufeff${text.replaceAll("\n", "\r\n")}`, none)).toEqual({
      edits: none,
      problems: [],
    });
  });
  it("sets, takes back, and names each line that does not fit", () => {
    const { edits, problems } = fromCsv(
      table,
      "(page),n,w,x\n/a/,7,,1\n/b/,1,y,1\n/c/,1,y,1\n",
      none,
    );
    expect(asValues(edits)).toEqual([
      { doc: "pages/a/", address: "main/x~1", field: "n", text: "7" },
      { doc: "pages/a/", address: "main/x~1", field: "w" },
    ]);
    expect(problems).toEqual([
      "The column x is no field of the block; it is left out.",
      "Line 3: the block stands on /b/ 2 times; say which one in a column (placement).",
      "Line 4: the block does not stand on /c/.",
    ]);
    expect(fromCsv(table, "(page),(placement),n\n/b/,main/x~9,1\n", none).problems).toEqual([
      "Line 2: /b/ has no placement of the block at main/x~9.",
    ]);
    expect(fromCsv(table, "w;n\n1;2\n", none).problems).toEqual([
      "The first line has to name the columns: (page), (placement) and fields of the block.",
    ]);
  });
});
