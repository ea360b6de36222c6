import { describe, expect, it } from "vitest";
import type { Page } from "../../api/client";
import { fitted, inLine, lay, layLine, sectionOf, stepFrom } from "./masonry";

const page = (path: string): Page => ({ path, title: path, layout: "", doc: path });
const measure = (text: string) => text.length * 6;
const site = [
  page("/"),
  page("/about/"),
  ...["ports", "routes", "fares"].flatMap((s) => [1, 2, 3, 4].map((i) => page(`/${s}/p${i}/`))),
];

describe("the masonry of the wall", () => {
  it("knows the section of an address", () => {
    expect(["/", "/about/", "/ports/aldwick/", "/file.html"].map(sectionOf)).toEqual([
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
      const m = lay(pages, 900, measure, new Set());
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
        lay([...pages], 900, measure, new Set()).bricks.map((b) => b.page),
      );
      expect(new Set(m.bricks.map((b) => b.y)).size).toBeLessThanOrEqual(1);
      for (const [i, a] of m.bricks.entries()) {
        if (width > 0) expect(a.x + a.w).toBeLessThanOrEqual(width - 14 + 0.001);
        const next = m.bricks[i + 1];
        if (next) expect(next.x).toBeGreaterThanOrEqual(a.x + a.w - 0.001);
      }
      const names = m.courses.filter((c) => c.w > 0);
      for (const [i, c] of names.entries()) {
        const ends = c.x + measure(inLine(c.name, c.count));
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
    const m = lay([page("/"), long], 900, measure, new Set());
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
    const m = lay(site, 900, measure, new Set());
    expect(m.courses[0]).toMatchObject({ name: "Home", count: 2 });
    expect(m.courses.map((c) => c.name)).toEqual(["Home", "Fares", "Ports", "Routes"]);
  });

  it("folds a section away and keeps its name", () => {
    const m = lay(site, 900, measure, new Set(["Ports"]));
    expect(m.bricks).toHaveLength(site.length - 4);
    expect(m.courses.find((c) => c.name === "Ports")).toMatchObject({ folded: true, count: 4 });
  });

  it("is walked with the arrow keys and never left", () => {
    const m = lay(site, 900, measure, new Set());
    const down = stepFrom(m, 0, "ArrowDown");
    expect(m.bricks[down]?.y).toBeGreaterThan(m.bricks[0]?.y ?? 0);
    expect(m.bricks[stepFrom(m, down, "ArrowUp")]?.y).toBe(m.bricks[0]?.y);
    expect(stepFrom(m, 0, "ArrowLeft")).toBe(0);
    expect(stepFrom(m, 0, "End")).toBe(m.bricks.length - 1);
    expect(stepFrom(m, m.bricks.length - 1, "ArrowRight")).toBe(m.bricks.length - 1);
  });
});
