import { expect, it } from "vitest";
import type { Overview } from "../api/client";
import { windowTitle } from "./windowTitle";

const overview = {
  name: "isles",
  title: "The Isles",
  blocks: [{ name: "footer", title: "Footer" }],
  pages: [{ path: "/about/", doc: "pages/about.html", title: "About us", layout: "" }],
  drafts: [],
  titles: {},
} as unknown as Overview;

it("names the thing, its place and the site", () => {
  const at = (path: string, query = "") => windowTitle(overview, path, new URLSearchParams(query));
  expect(at("/isles/blocks/footer")).toBe("Footer · Blocks · The Isles");
  expect(at("/isles/pages", "doc=pages/about.html")).toBe("About us · Pages · The Isles");
  expect(at("/isles/files", "path=assets/logo.svg")).toBe("logo.svg · Files · The Isles");
  expect(at("/isles/rules/main-footer")).toBe("main-footer · Rules · The Isles");
  expect(at("/isles/scripts/clock")).toBe("clock · Scripts · The Isles");
  expect(at("/isles/checks")).toBe("Checks · The Isles");
  expect(at("/isles/blocks/footer", "peek=/about/")).toBe("About us · Footer · Blocks · The Isles");
  expect(at("/isles")).toBe("Blocks · The Isles");
});
