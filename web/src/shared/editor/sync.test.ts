import { describe, expect, it } from "vitest";
import { between, Sent } from "./sync";

describe("between", () => {
  it("gives the one replacement that leads from one text to another", () => {
    for (const [a, b] of [
      ["", "x"],
      ["abc", "abXc"],
      ["aaa", "aa"],
      ["same", "same"],
      ["a\nb", "c"],
      ["abab", "ab"],
    ] as const) {
      const c = between(a, b);
      expect(c ? a.slice(0, c.from) + c.insert + a.slice(c.to) : a).toBe(b);
    }
    expect(between("one two three", "one 2 three")).toEqual({ from: 4, to: 7, insert: "2" });
  });
});

describe("Sent", () => {
  it("knows what comes back late from what comes from elsewhere", () => {
    const s = new Sent();
    s.add("a");
    s.add("ab");
    s.add("abc");
    expect(s.takes("ab")).toBe(true);
    expect(s.takes("abc")).toBe(true);
    expect(s.takes("another")).toBe(false);
    expect(
      s.takes("abc"),
      "a text that has come back is one from elsewhere when it comes again",
    ).toBe(false);
  });
});
