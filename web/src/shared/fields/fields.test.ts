import { describe, expect, it } from "vitest";
import type { Field } from "../../api/client";
import { readLink, writeLink } from "./link";
import { readItems, textOf, valueOf } from "./list";

const field = (type: Field["type"]): Field => ({
  name: "f",
  type,
  label: "F",
  help: "",
  required: false,
  choices: [],
  fields: [],
  default: null,
  default_text: "",
  from: "",
  min: "",
  max: "",
});

describe("links", () => {
  it("are an address alone where they have nothing else", () => {
    for (const l of [
      { to: "/x/", label: "", newTab: false },
      { to: "/x/", label: 'X "y"', newTab: true },
      { to: "", label: "only called", newTab: false },
    ])
      expect(readLink(writeLink(l))).toEqual(l);
    expect(writeLink({ to: "#id", label: "", newTab: false })).toBe("#id");
    expect(readLink("{broken").to).toBe("{broken");
  });
});

describe("lists", () => {
  it("read and write the values of their members by type", () => {
    expect(readItems('[{"label":"A"}]')).toEqual([{ label: "A" }]);
    expect(readItems("not json")).toEqual([]);
    expect(textOf({ to: "/x/", label: "X" }, "")).toBe('{"to":"/x/","label":"X"}');
    expect(textOf(undefined, "default")).toBe("default");
    expect(valueOf(field("switch"), "true")).toBe(true);
    expect(valueOf(field("link"), '{"to":"/x/"}')).toEqual({ to: "/x/" });
    expect(valueOf(field("text"), "0900")).toBe("0900");
  });
});
