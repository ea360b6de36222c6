// @vitest-environment jsdom
import { draw } from "../testing/bench";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Overview } from "../api/client";
import { useBuffers } from "./buffers";
import { Unsaved } from "./Unsaved";

const overview = {
  name: "small",
  title: "Small",
  home: "/",
  version: 1,
  blocks: [{ name: "footer", title: "Footer" }],
  pages: [{ doc: "pages/a.html", path: "/a/", title: "About us", layout: "" }],
  drafts: [],
  titles: {},
} as unknown as Overview;
const kept = (tab: string, all: object) =>
  localStorage.setItem(`shelf-unsaved-${tab}`, JSON.stringify({ tab, at: 1_000_000, all }));

function Beside() {
  const b = useBuffers();
  return (
    <>
      <code>{JSON.stringify(b.all)}</code>
      <button
        type="button"
        onClick={() =>
          b.set("small", "blocks/footer.html", {
            text: `${b.get("small", "blocks/footer.html")?.text ?? ""}x`,
            base: "h",
          })
        }
      >
        Type
      </button>
      <button type="button" onClick={() => b.landed("small", "blocks/footer.html", "x", "new")}>
        Save x
      </button>
      <button
        type="button"
        onClick={(e) => {
          e.currentTarget.title = b.back("small");
        }}
      >
        Back
      </button>
    </>
  );
}

const all = () => JSON.parse(screen.getByText(/^\{/).textContent) as unknown;
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const begin = () =>
  draw(
    <>
      <Unsaved overview={overview} />
      <Beside />
    </>,
  );

describe("what is not saved", () => {
  beforeEach(() => {
    localStorage.clear();
    sessionStorage.clear();
  });

  it("is told wherever it is, with the way there", () => {
    sessionStorage.setItem("shelf-tab", "this");
    kept("this", {
      "small:blocks/footer.html": { text: "f", base: "h" },
      "small:blocks/footer.css": { text: "c", base: "" },
      "small:pages/a.html": { text: "a", base: "h" },
      "other:blocks/x.html": { text: "x", base: "h" },
    });
    begin();
    expect(screen.getByRole("status").textContent).toBe("Unsaved in Footer, About us.");
    expect(screen.getByRole("link", { name: "About us" }).getAttribute("href")).toBe(
      "/small/pages?doc=pages%2Fa.html",
    );
  });

  it("is offered where a tab was closed, shown before it is let go, and never overwrites", async () => {
    kept("gone", {
      "small:blocks/footer.html": { text: "typed there", base: "h0" },
      "small:pages/a.html": { text: "about", base: "h" },
    });
    begin();
    await screen.findByText("Not saved when a tab was closed");
    expect(
      screen.queryByRole("button", { name: "Discard it" }),
      "not before it was seen",
    ).toBeNull();
    press("Type");
    press("Go on with it");
    expect(all(), "what is typed here stays").toEqual({
      "small:blocks/footer.html": { text: "x", base: "h" },
      "small:pages/a.html": { text: "about", base: "h" },
    });
    expect(
      screen.getByText("Not saved when a tab was closed"),
      "and what it would have overwritten still waits",
    ).toBeTruthy();
    press("Look at it");
    expect(screen.getByText("typed there")).toBeTruthy();
    press("Discard it");
    expect(screen.queryByText("Not saved when a tab was closed")).toBeNull();
    expect(localStorage.getItem("shelf-unsaved-gone")).toBeNull();
  });

  it("is let go once it is saved, and what was typed since goes on from there", async () => {
    begin();
    press("Type");
    press("Save x");
    await waitFor(() => expect(all()).toEqual({}));
    press("Type");
    press("Type");
    press("Save x");
    expect(all()).toEqual({ "small:blocks/footer.html": { text: "xx", base: "new" } });
  });

  it("is taken back change by change, and stays where that is not known any more", () => {
    sessionStorage.setItem("shelf-tab", "this");
    kept("this", { "small:blocks/footer.html": { text: "before", base: "h" } });
    begin();
    const back = () => {
      press("Back");
      return screen.getByRole("button", { name: "Back" }).title;
    };
    press("Type");
    press("Type");
    expect(back()).toBe("taken back");
    expect(all()).toEqual({ "small:blocks/footer.html": { text: "beforex", base: "h" } });
    expect(back()).toBe("taken back");
    expect(back(), "typed before a reload").toBe("stays");
    expect(all()).toEqual({ "small:blocks/footer.html": { text: "before", base: "h" } });
  });
});
