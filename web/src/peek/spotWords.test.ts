import { expect, it } from "vitest";
import { spotWords } from "./spotWords";

it("says where a placement stands", () => {
  const titles = new Map([["port-card", "Port card"]]);
  const words = {
    "main/season~1": "in main",
    "footer/rule:main-footer": "in footer",
    "header/rule:main-header/menu~1/item~3/season~1": "in the header menu",
    "sidebar/rule:port-help/film-button~1": "in sidebar, by rule port-help",
    "main/port-card~2/hours~1": "in main, inside Port card",
    "main/other/hours~1": "in main, inside other",
  };
  for (const [address, said] of Object.entries(words))
    expect(spotWords(address, titles)).toBe(said);
});
