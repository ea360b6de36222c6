// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import type { Entry } from "../../api/client";
import { bare, begun } from "./InsertCall";

const entry = (more: Partial<Entry>) =>
  ({
    name: "note",
    encloses: true,
    sample: "@{note tone=calm}Take $& a coat.@{/note}",
    fields: [{ name: "tone", required: true }],
    ...more,
  }) as Entry;

describe("a call that is inserted", () => {
  it("begins with what its sample encloses", () => {
    expect(begun(entry({}))).toBe('@{note tone="calm"}Take $& a coat.@{/note}');
    expect(begun(entry({ sample: "" }))).toBe('@{note tone=""}@{/note}');
    expect(begun(entry({ encloses: false, sample: "@{note /}" }))).toBe('@{note tone="" /}');
  });

  it("encloses nothing where many are put at once", () => {
    expect(bare(entry({}))).toBe('@{note tone=""}@{/note}');
  });
});
