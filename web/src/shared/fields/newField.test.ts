import { describe, expect, it } from "vitest";
import { declarable, declaration, showing } from "./newField";

const of = { name: "tone", label: "Tone", parts: " calm, loud ,, " };

describe("a new field", () => {
  it("is declared as its type needs it", () => {
    expect(declaration({ ...of, type: "text" })).toEqual({ type: "text", label: "Tone" });
    expect(declaration({ ...of, label: "tone", type: "link" })).toEqual({ type: "link" });
    expect(declaration({ ...of, type: "choice" })).toEqual({
      type: "choice",
      label: "Tone",
      choices: ["calm", "loud"],
      default: "calm",
    });
    expect(declaration({ ...of, type: "list" })).toEqual({
      type: "list",
      label: "Tone",
      fields: { calm: { type: "text" }, loud: { type: "text" } },
    });
  });

  it("is shown by markup that fits its type", () => {
    expect(showing({ ...of, type: "number" })).toBe("@{=tone}");
    expect(showing({ ...of, type: "switch" })).toBe("@{when tone}…@{/when}");
    expect(showing({ ...of, type: "link" })).toBe('<a href="@{=tone}">Tone</a>');
    expect(showing({ ...of, type: "list" })).toContain("@{each tone as entry}<li>@{=entry.calm}");
  });

  it("has a name of its own, and what its type needs", () => {
    expect(declarable({ ...of, type: "text" }, [])).toBe(true);
    expect(declarable({ ...of, type: "text" }, ["tone"])).toBe(false);
    expect(declarable({ ...of, name: "", type: "text" }, [])).toBe(false);
    expect(declarable({ ...of, type: "choice" }, [])).toBe(true);
    expect(declarable({ ...of, parts: " ,", type: "list" }, [])).toBe(false);
  });
});
