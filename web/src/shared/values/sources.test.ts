import { describe, expect, it } from "vitest";
import type { FieldPrecedence, Source } from "../../api/client";
const named = (path: string) => path.replace(/^[a-z]+\/|\.[a-z]+$/g, "");
import { inherited, placeOf, sourceWords } from "./sources";

const source = (source: Source["source"], doc: string, text: string): Source => ({
  source,
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
    const sources = [
      source("override", "pages/a.html", "own"),
      source("placed", "rules/top.yaml", ""),
      source("page", "pages/a.html", ""),
      source("default", "blocks/card.html", "usual"),
    ];
    expect(inherited({ sources } as FieldPrecedence, named)).toEqual({
      text: "usual",
      from: "the block's default",
    });
    expect(inherited({ sources: sources.slice(0, 2) } as FieldPrecedence, named)).toEqual({
      text: "",
      from: "",
    });
  });
  it("names what brings a value, and where it is opened", () => {
    expect(sourceWords(source("placed", "rules/top.yaml", "x"), named)).toBe("the rule top");
    expect(sourceWords(source("placed", "blocks/card.html", "x"), named)).toBe("the block card");
    expect(placeOf("s", "pages/a/b.html", "")).toBe("/s/pages?doc=pages%2Fa%2Fb.html&tab=source");
    expect(placeOf("s", "site.yaml", "")).toBe("");
  });
});
