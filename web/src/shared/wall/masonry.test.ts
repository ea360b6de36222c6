import { describe, expect, it } from "vitest";
import type { Page } from "../../api/client";
import { brickAt, inLine, lay, layLine, stepFrom, stripAt } from "./masonry";
import { apart, fitted, partOf, sectionsOf } from "./sections";

const page = (path: string): Page => ({ path, title: path, layout: "", doc: path });
const measure = (text: string) => text.length * 6;
const site = [
  page("/"),
  page("/about/"),
  ...["ports", "routes", "fares"].flatMap((s) => [1, 2, 3, 4].map((i) => page(`/${s}/p${i}/`))),
];

describe("the masonry of the wall", () => {
  it("knows the section of an address", () => {
    expect(["/", "/about/", "/ports/aldwick/", "/file.html"].map((p) => partOf(p, "/"))).toEqual([
      "",
      "about",
      "ports",
      "",
    ]);
  });

  it("lays every page once, none over another and none outside", () => {
    for (const pages of [
      site,
      Array.from({ length: 1000 }, (_, i) => page(`/s${i % 13}/p${i}/`)),
    ]) {
      const m = lay(pages, 900, measure);
      expect(m.bricks.map((b) => b.page).sort((a, b) => a - b)).toEqual(pages.map((_, i) => i));
      for (const [i, a] of m.bricks.entries()) {
        expect(a.x + a.w).toBeLessThanOrEqual(900);
        expect(a.y + m.brickHeight).toBeLessThanOrEqual(m.height);
        const next = m.bricks[i + 1];
        if (next) expect(next.y > a.y || next.x >= a.x + a.w).toBe(true);
      }
    }
  });

  it("lays every page in one line, in the order of the courses, with names where they fit", () => {
    for (const [pages, width] of [
      [site, 1280],
      [site, 328],
      [Array.from({ length: 3000 }, (_, i) => page(`/s${i % 40}/p${i}/`)), 900],
      [[], 900],
      [site, 0],
    ] as const) {
      const m = layLine([...pages], width, measure);
      expect(m.bricks.map((b) => b.page)).toEqual(
        lay([...pages], 900, measure).bricks.map((b) => b.page),
      );
      expect(new Set(m.bricks.map((b) => b.y)).size).toBeLessThanOrEqual(1);
      for (const [i, a] of m.bricks.entries()) {
        if (width > 0) expect(a.x + a.w).toBeLessThanOrEqual(width - 14 + 0.001);
        const next = m.bricks[i + 1];
        if (next) expect(next.x).toBeGreaterThanOrEqual(a.x + a.w - 0.001);
      }
      const names = m.courses.filter((c) => c.w > 0);
      for (const [i, c] of names.entries()) {
        const ends = c.x + measure(inLine(c.name, c.pages.length));
        expect(ends).toBeLessThanOrEqual(names[i + 1]?.x ?? width);
      }
    }
    expect(layLine(site, 1280, measure).courses.every((c) => c.w > 0)).toBe(true);
    const [first] = layLine(site, 1280, measure).bricks;
    expect(first?.w, "no brick is larger than it needs to be").toBe(13);
  });

  it("leads from section to section in a line", () => {
    const m = layLine(site, 1280, measure);
    const at = (key: string, from: number) => m.bricks[stepFrom(m, from, key)]?.page;
    const first = (path: string) => site.findIndex((p) => p.path === path);
    expect(at("ArrowDown", 0)).toBe(first("/fares/p1/"));
    expect(at("ArrowDown", 1)).toBe(first("/fares/p1/"));
    expect(at("ArrowDown", m.bricks.length - 2)).toBe(m.bricks.at(-1)?.page);
    expect(at("ArrowUp", 3)).toBe(first("/fares/p1/"));
    expect(at("ArrowUp", 2)).toBe(0);
    expect(at("ArrowUp", 0)).toBe(0);
    expect(at("ArrowRight", 1)).toBe(m.bricks[2]?.page);
    expect(at("End", 1)).toBe(m.bricks.at(-1)?.page);
  });

  it("shortens a title that is too long for a brick, and no other", () => {
    const long = {
      ...page("/long/"),
      title: "A title of which nobody will see the end \u{1F6A2}\u{1F6A2}",
    };
    const m = lay([page("/"), long], 900, measure);
    expect(m.bricks[0]?.text).toBe("/");
    expect(m.bricks[1]?.text).toMatch(/^A title of which.*…$/);
    expect(m.bricks[1]?.text, "there is no room for one letter more").toHaveLength(
      Math.floor(137 / 6),
    );
    expect(measure(fitted(long.title, 137, measure))).toBeLessThanOrEqual(137);
    expect(m.bricks[1]?.w).toBeLessThanOrEqual(150);
    for (let room = 6; room < 300; room++)
      expect(
        fitted(long.title, room, measure).replace("…", "").length,
        "each bit of room is used",
      ).toBeLessThanOrEqual(room / 6);
    expect(
      fitted("x\u{1F6A2}y", 18, (t) => Array.from(t).length * 6),
      "no letter is cut in two",
    ).toBe("x\u{1F6A2}y");
    expect(fitted("x\u{1F6A2}y", 12, (t) => Array.from(t).length * 6)).toBe("x…");
  });

  it("puts the home page and lone pages into one course, first", () => {
    const m = lay(site, 900, measure);
    expect(m.courses[0]).toMatchObject({ name: "Home", prefix: "/", pages: [0, 1] });
    expect(m.courses.map((c) => c.name)).toEqual(["Home", "Fares", "Ports", "Routes"]);
  });

  it("folds a section away and keeps its name", () => {
    const m = lay(site, 900, measure, { folded: (prefix) => prefix === "/ports/" });
    expect(m.bricks).toHaveLength(site.length - 4);
    const ports = m.courses.find((c) => c.name === "Ports");
    expect(ports?.pages).toHaveLength(4);
    expect(m.courses.filter((c) => c.strip)).toEqual([ports]);
    const strip = ports?.strip;
    if (!strip) throw new Error("it has no strip");
    expect(strip.x + strip.w).toBeLessThanOrEqual(900);
    expect(stripAt(m, strip.x + 1, strip.y + 1)).toBe(ports);
    expect(stripAt(m, strip.x - 2, strip.y + 1)).toBeNull();
    expect(brickAt(m, strip.x + 1, strip.y + 1)).toBe(-1);
  });

  it("knows which brick stands at a place", () => {
    for (const m of [
      lay(site, 500, measure),
      layLine(site, 500, measure),
      layLine(site, 40, measure),
    ]) {
      for (let x = 0; x < 500; x += 3)
        for (let y = 0; y < m.height; y += 3) {
          const there = m.bricks.findIndex(
            (b) => x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + m.brickHeight,
          );
          expect(brickAt(m, x, y)).toBe(there);
        }
    }
  });

  it("shows a section alone, by the sections in it", () => {
    const deep = [
      page("/"),
      page("/a/"),
      ...["x", "y"].flatMap((s) => [1, 2, 3].map((i) => page(`/a/${s}/${i}/`))),
      page("/a/lone/"),
      page("/b/1/"),
      page("/b/2/"),
    ];
    expect(sectionsOf(deep, "/a/").map((s) => [s.prefix, s.name, s.pages.length])).toEqual([
      ["/a/", "A", 2],
      ["/a/x/", "X", 3],
      ["/a/y/", "Y", 3],
    ]);
    const m = lay(deep, 900, measure, { within: "/a/x/" });
    expect(m.bricks.map((b) => deep[b.page]?.path)).toEqual(["/a/x/1/", "/a/x/2/", "/a/x/3/"]);
    expect(layLine(deep, 900, measure, "/b/").bricks).toHaveLength(2);
  });

  it("tells sections apart whose names begin alike", () => {
    const alike = ["Timetables of the islands north", "Timetables of the islands south", "Fares"];
    const labels = apart(alike, () => 120, measure);
    expect(new Set(labels).size).toBe(3);
    expect(labels[0]).toMatch(/^Tim.*north$/);
    expect(labels[2]).toBe("Fares");
    for (const l of labels) expect(measure(l)).toBeLessThanOrEqual(120);
    expect(apart(["One long name alone", "Short"], () => 60, measure)).toEqual([
      "One long…",
      "Short",
    ]);
  });

  it("is walked with the arrow keys and never left", () => {
    const m = lay(site, 900, measure);
    const down = stepFrom(m, 0, "ArrowDown");
    expect(m.bricks[down]?.y).toBeGreaterThan(m.bricks[0]?.y ?? 0);
    expect(m.bricks[stepFrom(m, down, "ArrowUp")]?.y).toBe(m.bricks[0]?.y);
    expect(stepFrom(m, 0, "ArrowLeft")).toBe(0);
    expect(stepFrom(m, 0, "End")).toBe(m.bricks.length - 1);
    expect(stepFrom(m, m.bricks.length - 1, "ArrowRight")).toBe(m.bricks.length - 1);
  });
});
