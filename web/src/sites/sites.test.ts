import { describe, expect, it } from "vitest";
import { freeSite, nameOf } from "../shared/nameSite";
import { brought, hidden, isZip } from "./bringing";
import { ago } from "./words";

describe("the name of a site", () => {
  it("follows from its title", () => {
    expect(nameOf("Ternholm Ferries")).toBe("ternholm-ferries");
    expect(nameOf("Die Wäscherei: frisch!")).toBe("die-w-scherei-frisch");
    expect(nameOf("2026")).toBe("site-2026");
    expect(nameOf("…")).toBe("site");
    expect(nameOf(`a${"b".repeat(38)} c`)).toBe(`a${"b".repeat(38)}`);
  });
  it("is none that there is", () => {
    expect(freeSite("a", [])).toBe("a");
    expect(freeSite("a", ["a", "a-2"])).toBe("a-3");
  });
});

describe("what somebody brings", () => {
  it("is a zip as it is", async () => {
    const file = new File(["x"], "My Site.ZIP");
    expect(isZip(file.name)).toBe(true);
    expect(await brought([{ path: file.name, file }])).toEqual({
      name: "my-site",
      zip: file,
      left: [],
    });
  });
  it("is a folder, packed without what is hidden", async () => {
    const { unzipSync } = await import("fflate");
    const file = (text: string) => new File([text], "x");
    const site = await brought([
      { path: "Ferry/site.yaml", file: file("format") },
      { path: "Ferry/.git/config", file: file("git") },
      { path: "Ferry/assets/.well-known/x", file: file("kept") },
      { path: "Ferry/README.md", file: file("about") },
      { path: "Ferry/tools/make.sh", file: file("none") },
      { path: "Ferry/tools/more.sh", file: file("none") },
    ]);
    expect(site.left).toEqual(["README.md", "tools/"]);
    expect(site.name).toBe("ferry");
    const bytes = await new Response(site.zip).arrayBuffer();
    expect(Object.keys(unzipSync(new Uint8Array(bytes))).sort()).toEqual([
      "Ferry/assets/.well-known/x",
      "Ferry/site.yaml",
    ]);
    await expect(brought([])).rejects.toThrow("Nothing was in it");
  });
  it("knows what is hidden below the folder, not the folder itself", () => {
    expect(hidden(".site/site.yaml")).toBe(false);
    expect(hidden("a/pages/.x.html")).toBe(true);
    expect(hidden("a/files/.well-known/security.txt")).toBe(false);
  });
});

describe("how long ago", () => {
  const now = Date.parse("2026-03-20T12:00:00Z");
  it.each([
    ["2026-03-20T11:59:30Z", "just now"],
    ["2026-03-20T11:58:00Z", "2 minutes ago"],
    ["2026-03-20T09:00:00Z", "3 hours ago"],
    ["2026-03-19T11:00:00Z", "yesterday"],
    ["2026-03-01T12:00:00Z", "on March 1, 2026"],
  ])("%s is %s", (at, words) => expect(ago(at, now)).toBe(words));
});
