import { describe, expect, it } from "vitest";
import type { Entry, Field } from "../../api/client";
import { completeKeys, complete, type Known } from "./completion";

const field = (name: string, type: Field["type"], more: Partial<Field> = {}): Field => ({
  name,
  type,
  label: name,
  help: "",
  required: false,
  choices: [],
  fields: [],
  default: null,
  default_text: "",
  from: "",
  min: "",
  max: "",
  ...more,
});
const entry = (name: string, fields: Field[]): Entry => ({
  name,
  kind: "block",
  set: "",
  on: true,
  title: name,
  category: "",
  about: "",
  call: "",
  encloses: false,
  sample: "",
  fields,
  pages: 0,
});
const known: Known = {
  entries: [
    entry("hours", [
      field("port", "text", { required: true }),
      field("tone", "choice", { choices: ["calm", "loud"] }),
      field("open", "switch"),
    ]),
    entry("card", [field("to", "page")]),
  ],
  choices: {
    pages: [{ value: "/fares/", title: "Fares" }],
    menus: [{ value: "main", title: "Main" }],
    assets: [],
  },
  fields: [field("title", "text")],
};

function at(text: string) {
  const found = complete(text, known);
  return found && { from: found.from, labels: found.options.map((o) => o.label) };
}

describe("complete", () => {
  it("offers nothing outside of tags", () => {
    for (const text of ["hours", "@{hours /} po", "@@{ho", ""]) expect(at(text)).toBeNull();
  });
  it("offers names behind @{ and @{/", () => {
    expect(at("<p>@{ho")).toEqual({
      from: 5,
      labels: ["hours", "card", "when", "each", "copy", "else"],
    });
    expect(at("@{hours}x@{/h")?.from).toBe(12);
  });
  it("offers the parameters that the call does not have yet", () => {
    expect(at('@{hours port="x" ')).toEqual({ from: 17, labels: ["tone", "open"] });
    expect(at('@{hours port="x')?.labels).toEqual([]);
    expect(at("@{nothing ")).toBeNull();
  });
  it("offers values that fit", () => {
    expect(at('@{hours tone="c')).toEqual({ from: 14, labels: ["calm", "loud"] });
    expect(at("@{hours open=")?.labels).toEqual(["true", "false"]);
    expect(at('@{card to="/fa')?.labels).toEqual(["/fares/"]);
  });
  it("offers the fields of the block where a value stands", () => {
    expect(at("@{=ti")?.labels[0]).toBe("title");
    expect(at("@{when not ti")?.from).toBe(11);
  });
});

describe("keys of front matter", () => {
  const labels = (before: string, path = "blocks/a.html") =>
    completeKeys(before, path, known)?.options.map((o) => o.label);
  it("are those of the document, at its top", () => {
    expect(labels("---\nti")).toContain("sample");
    expect(labels("---\ntitle: x\n", "pages/a.html")).toContain("overrides");
    expect(labels("block: hours\n", "rules/a.yaml")).toContain("set");
    expect(labels("---\ntitle: x", "blocks/a.html")).toBeUndefined();
    expect(labels("---\ntitle: x\n---\nti")).toBeUndefined();
    expect(labels("ti")).toBeUndefined();
  });
  it("are those of a field, of a behaviour, and of what a rule sets", () => {
    expect(labels("---\nfields:\n  name: {ty")).toContain("choices");
    expect(labels("---\nfields:\n  name: {type: text, ")).toContain("required");
    expect(labels("---\nbehaviour: {gi")).toContain("needs");
    expect(labels("block: hours\nset: {", "rules/a.yaml")).toEqual(["port", "tone", "open"]);
    expect(labels("block: hours\nset:\n  po", "rules/a.yaml")).toEqual(["port", "tone", "open"]);
    expect(labels("block: none\nset: {", "rules/a.yaml")).toEqual([]);
  });
});
