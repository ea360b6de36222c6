import { describe, expect, it } from "vitest";
import { countStates, effectStates, standing, wordFor } from "./states";

describe("states", () => {
  it("reads where a block stands", () => {
    expect(standing("loch-")).toEqual(["linked", "own", "copy", "hidden", "none"]);
  });
  it("reads an impact, what breaks before what changes", () => {
    expect(effectStates("crhpis-C")).toEqual([
      "change",
      "change",
      "held",
      "copy",
      "hidden",
      "none",
      "none",
      "break",
    ]);
  });
  it("counts", () => {
    expect([...countStates(standing("llo"))]).toEqual([
      ["linked", 2],
      ["own", 1],
    ]);
  });
  it("has a word for every state in every question it can occur in", () => {
    for (const s of effectStates("crhpis-C")) {
      expect(wordFor("would", s)).not.toBe("");
      expect(wordFor("differs", s)).not.toBe("");
    }
    expect(wordFor("would", "held")).toBe("hold");
  });
});
