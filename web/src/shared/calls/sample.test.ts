import { describe, expect, it } from "vitest";
import { argumentsIn, enclosedIn, enclosing, madeUp } from "./sample";

describe("a sample call", () => {
  it("gives the arguments to begin with", () => {
    expect(
      argumentsIn(
        `@{timetable from="Aldwick" to='St \\'Ann' every=90 links=[{"a":1}]}x="y"@{/timetable}`,
      ),
    ).toEqual({ from: "Aldwick", to: "St 'Ann", every: "90" });
    expect(argumentsIn(`@{season name="a } b" /}`)).toEqual({ name: "a } b" });
    expect(argumentsIn("")).toEqual({});
  });
  it("gives what it encloses", () => {
    expect(enclosedIn(`@{timetable from="Aldwick"}Every @{year /}.@{/timetable}`)).toBe(
      "Every @{year /}.",
    );
    expect(enclosedIn(`@{season name="a" /}`)).toBe("");
    expect(enclosedIn(`@{note}in@{/note}`)).toBe("in");
  });
});

it("encloses another text", () => {
  expect(enclosing('@{a t="x}"}old@{/a}', "new @{b /}")).toBe('@{a t="x}"}new @{b /}@{/a}');
  expect(enclosing("@{a /}", "new")).toBe("@{a /}");
});

it("makes up what fits", () => {
  const f = (type: string, more = {}) =>
    madeUp({ type, label: "Port", choices: ["calm"], min: "", ...more } as unknown as Parameters<
      typeof madeUp
    >[0]);
  expect(["text", "number", "switch", "choice", "date", "page", "image"].map((t) => f(t))).toEqual([
    "Port",
    "1",
    "true",
    "calm",
    "2026-03-01",
    "/",
    "",
  ]);
  expect(f("number", { min: "5" })).toBe("5");
});
