import { describe, expect, it } from "vitest";
import { pieces } from "./language";

const read = (source: string) =>
  pieces(source).map((p) => `${p.kind}:${source.slice(p.from, p.to)}`);

describe("the pieces of the shelf language", () => {
  it("finds tags, their words and quoted texts", () => {
    expect(read('a @{hours port="no}rth" /} b')).toEqual([
      'tag:@{hours port="no}rth" /}',
      "word:hours",
      'text:"no}rth"',
    ]);
    expect(read("@{=page.logo or logo}@{/when}")).toEqual([
      "tag:@{=page.logo or logo}",
      "word:=page.logo",
      "tag:@{/when}",
      "word:/when",
    ]);
  });
  it("takes what stands in backquotes for a text", () => {
    expect(read('@{top title=`a "b} /}` /}c')).toEqual([
      'tag:@{top title=`a "b} /}` /}',
      "word:top",
      'text:`a "b} /}`',
    ]);
  });
  it("leaves a literal alone and knows a comment", () => {
    expect(read("@@{x} @{# note }")).toEqual(["note:@{# note }"]);
  });
  it("ends an unfinished tag where the next begins", () => {
    expect(read("@{when x @{b /}")).toEqual(["tag:@{when x ", "word:when", "tag:@{b /}", "word:b"]);
  });
  it("comes to an end on anything", () => {
    for (const s of ["@{", '@{a "', "@{#", "@{a '\\", "@@@{", "@{}", "@{@{@{"])
      expect(() => pieces(s)).not.toThrow();
  });
});
