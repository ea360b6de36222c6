// @vitest-environment jsdom
import { act, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { lay } from "../shared/wall/masonry";
import { CourseNames, sentenceOf, tallyOf } from "./CourseNames";
import { aboveOf, useZoom } from "./useZoom";

const page = (path: string) => ({ path, title: path, layout: "", doc: path });
const pages = ["/", "/a/1/", "/a/2/", "/b/1/", "/b/2/", "/b/2/x/"].map(page);

describe("what of the site the wall shows", () => {
  it("is a section, and what is above it once that is gone", () => {
    const { result, rerender } = renderHook(({ all }) => useZoom(all), {
      initialProps: { all: pages },
    });
    expect(result.current.within).toBe("/");
    act(() => result.current.into("/b/2/"));
    expect(result.current.within).toBe("/b/2/");
    rerender({ all: pages.slice(0, 5) });
    expect(result.current.within, "its page stands there still").toBe("/b/2/");
    rerender({ all: pages.slice(0, 4) });
    expect(result.current.within).toBe("/b/");
    act(() => result.current.out());
    expect(result.current.within).toBe("/");
    expect(aboveOf("/"), "there is nothing above all").toBe("/");
  });

  it("is folded up as one says, and where there is too much of it", () => {
    const { result, rerender } = renderHook(({ all }) => useZoom(all), {
      initialProps: { all: pages },
    });
    const folded = (count = 5000) => result.current.folded("/a/", count);
    expect(folded(), "a site that is not large").toBe(false);
    act(() => result.current.fold("/a/", true));
    expect(folded()).toBe(true);
    act(() => result.current.foldAll(false));
    expect(folded()).toBe(false);
    act(() => result.current.foldAll(true));
    act(() => result.current.fold("/a/", false));
    expect([folded(), result.current.folded("/b/", 1)]).toEqual([false, true]);

    const large = renderHook(() => useZoom(Array.from({ length: 20_001 }, () => page("/a/"))));
    expect(large.result.current.folded("/a/", 2001)).toBe(true);
    expect(large.result.current.folded("/a/", 2000)).toBe(false);
    act(() => large.result.current.into("/a/"));
    expect(large.result.current.folded("/a/", 2001), "what one came closer to").toBe(false);
    rerender({ all: pages });
  });

  it("is told in sentences, section by section", () => {
    const { courses } = lay(pages, 900, (t) => t.length * 6, { folded: (p) => p === "/b/" });
    const states = ["none", "change", "held", "change", "change", "break"] as const;
    const tallies = courses.map((c) => tallyOf(c, [...states]));
    expect(courses.map((c, i) => sentenceOf(c, tallies[i] ?? [], "would"))).toEqual([
      "Home, 1 page: 1 not touched",
      "A, 2 pages: 1 would change, 1 hold",
      "B, 3 pages: 1 would break, 2 would change",
    ]);
    const zoom = {
      within: "/",
      folded: vi.fn(),
      into: vi.fn(),
      out: vi.fn(),
      fold: vi.fn(),
      foldAll: vi.fn(),
    };
    render(
      <CourseNames wide={118} courses={courses} tallies={tallies} question="would" zoom={zoom} />,
    );
    fireEvent.click(screen.getByRole("button", { name: /^A, 2 pages/, expanded: true }));
    fireEvent.click(screen.getByRole("button", { name: /^B, 3 pages/, expanded: false }));
    expect(zoom.fold.mock.calls).toEqual([
      ["/a/", true],
      ["/b/", false],
    ]);
    fireEvent.click(screen.getByRole("button", { name: "Only B" }));
    expect(zoom.into).toHaveBeenCalledWith("/b/");
    expect(screen.queryByRole("button", { name: "Only Home" }), "that is all of it").toBeNull();
  });
});
