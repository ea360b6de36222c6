import { describe, expect, it } from "vitest";
import type { Page } from "../../api/client";
import { targetRows, targetWords, toggled } from "./targets";

const page = (path: string, layout = "port"): Page => ({ path, title: path, doc: "", layout });

describe("targets", () => {
  it("reads as words", () => {
    expect(targetWords("all")).toBe("all pages");
    expect(targetWords("under:/ports/")).toBe("all under /ports/");
    expect(
      targetWords("layout:port", [
        {
          name: "port",
          title: "Port page",
          path: "",
          regions: [],
          page_fields: [],
          starts_with: {},
          pages: 1,
        },
      ]),
    ).toBe("pages of the type Port page");
  });
  it("gives all pages and something narrower each other's place", () => {
    expect(toggled(["all"], "home")).toEqual(["home"]);
    expect(toggled(["home", "page:/a/"], "all")).toEqual(["all"]);
    expect(toggled(["home"], "page:/a/")).toEqual(["home", "page:/a/"]);
    expect(toggled(["home", "page:/a/"], "home")).toEqual(["page:/a/"]);
  });
  it("lists branches that hold more than one page before their pages", () => {
    const rows = targetRows(
      [page("/"), page("/ports/"), page("/ports/aldwick/"), page("/about/")],
      [],
      "/",
    );
    expect(rows.map((r) => r.target)).toEqual([
      "all",
      "home",
      "page:/",
      "page:/about/",
      "under:/ports/",
      "page:/ports/",
      "page:/ports/aldwick/",
    ]);
    expect(rows.find((r) => r.target === "under:/ports/")?.pages).toBe(2);
  });
});
