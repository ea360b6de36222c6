import { describe, expect, it } from "vitest";
import type { FieldLadder, Rung } from "../api/client";
import { inherited, placeOf, rungWords } from "./rungs";

const rung = (rung: Rung["rung"], doc: string, text: string): Rung => ({
  rung,
  doc,
  text,
  set: text !== "",
  line: 0,
  column: 0,
  bad: "",
  unshown: "",
});

describe("where values come from", () => {
  it("says what a page would inherit", () => {
    const rungs = [
      rung("override", "pages/a.html", "own"),
      rung("placed", "rules/top.yaml", ""),
      rung("page", "pages/a.html", ""),
      rung("default", "blocks/card.html", "usual"),
    ];
    expect(inherited({ rungs } as FieldLadder)).toEqual({
      text: "usual",
      from: "the block's default",
    });
    expect(inherited({ rungs: rungs.slice(0, 2) } as FieldLadder)).toEqual({ text: "", from: "" });
  });
  it("names what brings a value, and where it is opened", () => {
    expect(rungWords(rung("placed", "rules/top.yaml", "x"))).toBe("the rule top");
    expect(rungWords(rung("placed", "blocks/card.html", "x"))).toBe("the block card");
    expect(placeOf("s", "pages/a/b.html", "")).toBe("/s/pages?doc=pages%2Fa%2Fb.html&tab=source");
    expect(placeOf("s", "site.yaml", "")).toBe("");
  });
});
