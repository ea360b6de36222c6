import { expect, it } from "vitest";
import { behindTag } from "./tags";

it("inserts where the cursor stands, or behind the tag around it", () => {
  for (const [text, want] of [
    ["a|b", "a^b"],
    ["@{sea|son /}x", "@{season /}^x"],
    ["@|{season /}", "@{season /}^"],
    ["|@{season /}", "^@{season /}"],
    ["@{season /}|x", "@{season /}^x"],
    ["@{box}in|side@{/box}", "@{box}in^side@{/box}"],
    ["@{box}x@{/b|ox}y", "@{box}x@{/box}^y"],
    ['@{a t="}" | /}x', '@{a t="}"  /}^x'],
    ['@{a t="\\"}" u=1|/}x', '@{a t="\\"}" u=1/}^x'],
    ["@{a l=[{x: 1}]| /}y", "@{a l=[{x: 1}] /}^y"],
    ["@@{not |a tag}", "@@{not ^a tag}"],
    ["@{never |closed", "@{never ^closed"],
    ["@{# a no|te }x", "@{# a note }^x"],
    ["@{a /}|@{b /}", "@{a /}^@{b /}"],
  ] as const) {
    const at = text.indexOf("|");
    const plain = text.replace("|", "");
    const i = behindTag(plain, at);
    expect(plain.slice(0, i) + "^" + plain.slice(i)).toBe(want);
  }
});
