// @vitest-environment jsdom
import { draw, server } from "../testing/bench";
import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { Suspense, useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { BuffersProvider, useBuffers } from "./buffers";
import { later } from "./later";
import { Sentence } from "./Say";
import { Tabs } from "./Tabs";

function ThreeTabs() {
  const [value, choose] = useState<"a" | "b" | "c">("a");
  return (
    <Tabs
      label="Which"
      value={value}
      choose={choose}
      tabs={[
        ["a", "First"],
        ["b", "Second"],
        ["c", "Third"],
      ]}
    />
  );
}

describe("tabs", () => {
  it("are one stop of the keyboard, moved through with the arrows, round and round", () => {
    render(<ThreeTabs />);
    const tab = (name: string) => screen.getByRole("tab", { name });
    const stops = () =>
      screen
        .getAllByRole("tab")
        .filter((t) => t.tabIndex === 0)
        .map((t) => t.textContent);
    expect(stops()).toEqual(["First"]);
    act(() => tab("First").focus());
    fireEvent.keyDown(tab("First"), { key: "ArrowRight" });
    expect(document.activeElement).toBe(tab("Second"));
    expect(stops()).toEqual(["Second"]);
    fireEvent.keyDown(tab("Second"), { key: "ArrowLeft" });
    fireEvent.keyDown(tab("First"), { key: "ArrowLeft" });
    expect(tab("Third").getAttribute("aria-selected")).toBe("true");
    fireEvent.keyDown(tab("Third"), { key: "ArrowRight" });
    expect(document.activeElement).toBe(tab("First"));
    fireEvent.keyDown(tab("First"), { key: "x" });
    expect(stops()).toEqual(["First"]);
  });
});

describe("what is loaded later", () => {
  it("is waited for once, and there at once where it was loaded ahead", async () => {
    const load = vi.fn(async () =>
      Promise.resolve({ Part: ({ word }: { word: string }) => <b>{word}</b> }),
    );
    const Part = later(load, "Part");
    expect(load).not.toHaveBeenCalled();
    await act(async () => {
      render(
        <Suspense fallback="waiting">
          <Part word="came" />
        </Suspense>,
      );
      await Promise.resolve();
    });
    expect(screen.getByText("came")).toBeTruthy();
    const Ahead = later(load, "Part");
    await Ahead.ahead();
    render(
      <Suspense fallback="waiting">
        <Ahead word="is there" />
      </Suspense>,
    );
    expect(screen.getByText("is there")).toBeTruthy();
    expect(screen.queryByText("waiting")).toBeNull();
  });
});

describe("unsaved edits", () => {
  function Kept() {
    const buffers = useBuffers();
    return (
      <>
        <code>{JSON.stringify(buffers.all)}</code>
        <button
          type="button"
          onClick={() => buffers.set("small", "a", { text: "typed", base: "h" })}
        >
          Type
        </button>
        <button type="button" onClick={() => buffers.settle("small", "a", "sent", "saved")}>
          Settle sent
        </button>
        <button type="button" onClick={() => buffers.settle("small", "a", "typed", "saved")}>
          Settle typed
        </button>
        <button type="button" onClick={() => buffers.set("small", "a", null)}>
          Drop
        </button>
      </>
    );
  }
  const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
  const kept = () => JSON.parse(screen.getByText(/^\{/).textContent) as unknown;

  it("become what was saved only where nothing has been typed since it was sent", () => {
    render(
      <BuffersProvider>
        <Kept />
      </BuffersProvider>,
    );
    press("Type");
    press("Settle sent");
    expect(kept()).toEqual({ "small:a": { text: "typed", base: "h" } });
    press("Settle typed");
    expect(kept()).toEqual({ "small:a": { text: "saved", base: "h" } });
    press("Drop");
    press("Settle typed");
    expect(kept()).toEqual({});
  });

  it("outlive a reload, and a damaged copy of them is no harm", async () => {
    const first = render(
      <BuffersProvider>
        <Kept />
      </BuffersProvider>,
    );
    press("Type");
    await waitFor(() => expect(JSON.stringify(localStorage)).toContain("typed"));
    first.unmount();
    const second = render(
      <BuffersProvider>
        <Kept />
      </BuffersProvider>,
    );
    expect(kept()).toEqual({ "small:a": { text: "typed", base: "h" } });
    second.unmount();
    localStorage.setItem(`shelf-unsaved-${sessionStorage.getItem("shelf-tab") ?? ""}`, "{broken");
    render(
      <BuffersProvider>
        <Kept />
      </BuffersProvider>,
    );
    expect(kept()).toEqual({});
  });
});

describe("a sentence of what would change", () => {
  it("has its first part strong and loses no word", () => {
    server();
    const sentences = [
      ["Changes 12 pages.", " 3 keep their own value. No new errors."],
      ["Changes nothing.", ""],
      ["Changes 1 page.", " Breaks 2: a call to nothing."],
    ] as const;
    for (const [first, rest] of sentences) {
      const { container, unmount } = draw(<Sentence text={first + rest} />);
      expect(container.textContent).toBe(first + rest);
      expect(container.querySelector("b")?.textContent).toBe(first);
      unmount();
    }
  });
});
