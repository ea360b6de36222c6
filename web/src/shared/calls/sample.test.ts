import { describe, expect, it } from "vitest";
import { argumentsIn, enclosedIn } from "./sample";

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
