// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { inLine, keeps, unwrapped } from "./richText";

describe("a rich text in the editor", () => {
  it("stands within a line where it did", () => {
    expect(inLine("a <b>b</b>")).toBe(true);
    expect(inLine("<p>a</p>")).toBe(false);
    expect(inLine("")).toBe(true);
    expect(unwrapped("<p>a <strong>b</strong></p>", true)).toBe("a <strong>b</strong>");
    expect(unwrapped("<p>a</p><p>b</p>", true)).toBe("<p>a</p><p>b</p>");
    expect(unwrapped("<p>a</p>", false)).toBe("<p>a</p>");
    expect(unwrapped("<p></p>", false)).toBe("");
  });
  it("is kept where the editor says the same with other words", () => {
    for (const [was, is] of [
      ["<b>a</b> <i>b</i>", "<strong>a</strong> <em>b</em>"],
      ["<ul>\n  <li>a</li>\n</ul>", "<ul><li><p>a</p></li></ul>"],
      ["<p>\n a\n</p>", "<p>a</p>"],
      ['<a title="t" href="/x/">x</a>', '<a href="/x/" title="t">x</a>'],
      ["<p>a&nbsp;b</p>", "<p>a&nbsp;b</p>"],
    ])
      expect(keeps(was ?? "", is ?? ""), was).toBe(true);
  });
  it("is not where something of it would go", () => {
    for (const [was, is] of [
      ['<p class="lead">a</p>', "<p>a</p>"],
      ["<table><tr><td>a</td></tr></table>", "<p>a</p>"],
      ['<img src="/a.png">', ""],
      ["<p>a b</p>", "<p>ab</p>"],
      ["<dl><dt>a</dt></dl>", "<p>a</p>"],
    ])
      expect(keeps(was ?? "", is ?? ""), was).toBe(false);
  });
});
