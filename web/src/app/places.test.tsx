// @vitest-environment jsdom
import { act, cleanup, render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider, type RouteObject } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Failed, NoBench, nowhere } from "./Failed";
import { Place } from "./Place";

function Broken(): never {
  throw new Error("The list of layouts has no end.");
}

/** A bench of four places: one that is there, one that takes `ms` to come, one that cannot be
 *  drawn and one whose code cannot be had. */
const bench = (ms: number): RouteObject[] => [
  { path: "/", Component: Broken, ErrorBoundary: NoBench },
  {
    path: "/:site",
    ErrorBoundary: NoBench,
    element: (
      <>
        <nav>Bench</nav>
        <Place />
      </>
    ),
    children: [{ ErrorBoundary: Failed, children: places(ms) }],
  },
];

const places = (ms: number): RouteObject[] => [
  { path: "blocks", element: <p>All blocks</p> },
  {
    path: "menus",
    element: <p>All menus</p>,
    loader: () => new Promise((done) => setTimeout(() => done(null), ms)),
  },
  { path: "layouts", Component: Broken },
  { path: "rules", lazy: () => Promise.reject(new TypeError("rules.js did not come")) },
  { path: "*", loader: nowhere },
];

const at = async (address: string, ms = 0) => {
  const router = createMemoryRouter(bench(ms), { initialEntries: [address] });
  render(<RouterProvider router={router} />);
  await act(() => vi.advanceTimersByTimeAsync(0));
  return router;
};
const go = (router: Awaited<ReturnType<typeof at>>, address: string) =>
  act(() => {
    void router.navigate(address);
    return Promise.resolve();
  });
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

beforeEach(() => {
  vi.useFakeTimers();
  // What a place throws is the router's to catch, and the console's to repeat.
  vi.spyOn(console, "error").mockImplementation(() => undefined);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("a place that is coming", () => {
  it("leaves the last one standing for a moment, then says that it opens", async () => {
    const router = await at("/small/blocks", 1000);
    await go(router, "/small/menus");
    await pass(150);
    expect(screen.getByText("All blocks")).toBeTruthy();
    await pass(100);
    expect(screen.queryByText("All blocks")).toBeNull();
    expect(screen.getByText("Opening…").closest("[aria-busy]")?.getAttribute("aria-busy")).toBe(
      "true",
    );
    await pass(800);
    expect(screen.queryByText("Opening…")).toBeNull();
    expect(screen.getByText("All menus")).toBeTruthy();
  });

  it("says nothing where it is there in a moment", async () => {
    const router = await at("/small/blocks", 100);
    await go(router, "/small/menus");
    await pass(90);
    expect(screen.getByText("All blocks")).toBeTruthy();
    await pass(20);
    expect(screen.getByText("All menus")).toBeTruthy();
    await pass(300);
    expect(screen.getByText("All menus")).toBeTruthy();
  });

  it("tells of a second slow one as late as of the first", async () => {
    const router = await at("/small/blocks", 1000);
    await go(router, "/small/menus");
    await pass(1100);
    await go(router, "/small/blocks");
    await go(router, "/small/menus?name=main");
    await pass(50);
    expect(screen.getByText("All blocks")).toBeTruthy();
  });
});

describe("a place that cannot be shown", () => {
  it("says that nothing stands at an address nobody gave out", async () => {
    await at("/small/nowhere");
    expect(screen.getByRole("heading").textContent).toBe("Nothing stands at this address");
    expect(screen.getByRole("alert").textContent).toContain("/small/nowhere");
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getByRole("link", { name: "To small" }).getAttribute("href")).toBe("/small");
  });

  it("leaves the rest of the bench as it is", async () => {
    const router = await at("/small/layouts");
    expect(screen.getByText("Bench")).toBeTruthy();
    await go(router, "/small/blocks");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(screen.getByText("All blocks")).toBeTruthy();
  });

  it("leads to the sites where not even the bench can be drawn", async () => {
    await at("/");
    expect(screen.getByRole("main").textContent).toContain("The list of layouts has no end.");
    expect(screen.getByRole("link", { name: "To the sites" }).getAttribute("href")).toBe("/?all");
  });

  it("says why one could not be drawn, and loads it anew", async () => {
    await at("/small/layouts");
    expect(screen.getByRole("heading").textContent).toBe("This place could not be shown");
    expect(screen.getByText("The list of layouts has no end.")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Load it anew" })).toBeTruthy();
  });

  it("says why its code could not be had", async () => {
    await at("/small/rules");
    expect(screen.getByText("rules.js did not come")).toBeTruthy();
    expect(screen.getByRole("link", { name: "To small" })).toBeTruthy();
  });
});
