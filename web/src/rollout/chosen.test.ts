import { describe, expect, it } from "vitest";
import type { Page, Rolled } from "../api/client";
import { docsOf, rolledStates, tally, withOrWithout } from "./chosen";

const page = (path: string, layout: string): Page => ({
  doc: `pages${path}x.html`,
  path,
  layout,
  title: path,
});
const pages = [
  page("/", "wide"),
  page("/ports/", "std"),
  page("/ports/a/", "port"),
  page("/portside/", "std"),
];

describe("choosing pages", () => {
  it("knows what a target means", () => {
    const paths = (t: string) =>
      docsOf(t, pages, "/").map((d) => pages.find((p) => p.doc === d)?.path);
    expect(paths("all")).toEqual(pages.map((p) => p.path));
    expect(paths("home")).toEqual(["/"]);
    expect(paths("under:/ports/")).toEqual(["/ports/", "/ports/a/"]);
    expect(paths("layout:std")).toEqual(["/ports/", "/portside/"]);
    expect(paths("page:/ports/a/")).toEqual(["/ports/a/"]);
  });
  it("adds what is missing and takes what is all there", () => {
    const two = withOrWithout(new Set(["a"]), ["a", "b"]);
    expect([...two]).toEqual(["a", "b"]);
    expect([...withOrWithout(two, ["a", "b"])]).toEqual([]);
    expect([...withOrWithout(two, [])]).toEqual(["a", "b"]);
  });
  it("puts outcomes on the wall and into words", () => {
    const rolled: Rolled[] = [
      { doc: "pages/x.html", page: "/", outcome: "added", why: "" },
      { doc: "pages/ports/x.html", page: "/ports/", outcome: "there", why: "" },
    ];
    const chosen = new Set(rolled.map((r) => r.doc).concat("pages/portside/x.html"));
    expect(rolledStates(pages, chosen, rolled)).toEqual(["change", "same", "none", "linked"]);
    expect(tally(rolled, "get")).toBe("1 page gets it. 1 page has it already.");
    expect(tally([], "lose")).toBe("0 pages lose it.");
  });
});
