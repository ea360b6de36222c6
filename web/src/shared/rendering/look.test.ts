import { describe, expect, it } from "vitest";
import { pageOf } from "./Live";
import type { Overview } from "../../api/client";
import { previewOf } from "../../api/look";

const overview = { site_origin: "http://127.0.0.1:1", version: 3 } as Overview;
const day = { signedIn: true, on: "2026-12-24" };

describe("where a page is shown", () => {
  it("has another address for each state of the draft, and for each edit", () => {
    const urls = [
      previewOf(overview, "/a/", ""),
      previewOf({ ...overview, version: 4 }, "/a/", ""),
      previewOf(overview, "/a/", "7"),
      previewOf(overview, "/a/", "8"),
    ];
    expect(new Set(urls).size).toBe(urls.length);
    expect(urls.map(pageOf)).toEqual(["/a/", "/a/", "/a/", "/a/"]);
  });

  it("says as whom and on which day one looks", () => {
    for (const proposal of ["", "7"]) {
      const query = new URL(previewOf(overview, "/a/", proposal, day)).searchParams;
      expect([query.get("shelf-as"), query.get("shelf-on")]).toEqual(["signed-in", "2026-12-24"]);
    }
  });
});
