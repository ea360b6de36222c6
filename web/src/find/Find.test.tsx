// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useLocation } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Overview } from "../api/client";
import { Find } from "./Find";

const overview = {
  name: "small",
  blocks: [
    { name: "footer", title: "Footer" },
    { name: "fares", title: "Fares" },
  ],
  pages: [
    { path: "/", title: "Home", doc: "pages/index.html" },
    { path: "/fares/", title: "What it costs", doc: "pages/fares.html" },
  ],
  drafts: [],
} as unknown as Overview;
const spot = { n: 0, kind: "text", of: "", line: 1, column: 1, with: "" };
const close = vi.fn();
const lit = vi.fn();

function Beside() {
  const at = useLocation();
  return <p role="note">{at.pathname + at.search}</p>;
}

describe("finding", () => {
  let asked: Server;
  beforeEach(() => {
    close.mockReset();
    Element.prototype.scrollIntoView = vi.fn();
    asked = server();
    draw(
      <>
        <Find
          overview={overview}
          commands={[{ name: "Light the lamp", key: "L", act: lit }]}
          close={close}
        />
        <Beside />
      </>,
    );
  });
  const box = () => screen.getByRole("combobox", { name: "Find anything" });
  const type = (text: string) => fireEvent.change(box(), { target: { value: text } });
  const key = (name: string) => fireEvent.keyDown(box(), { key: name });
  const found = () => screen.queryAllByRole("option").map((o) => o.textContent);
  const active = () =>
    document.getElementById(box().getAttribute("aria-activedescendant") ?? "")?.textContent;
  const where = () => screen.getByRole("note").textContent;

  it("begins with everything, by any part of its name, in any order", () => {
    expect(found()[0]).toBe("Footer footer block");
    type("fares");
    expect(found().slice(0, -1)).toEqual(["Fares fares block", "What it costs /fares/ page"]);
    expect(found().at(-1), "all that says it").toBe("Find and replace “fares”  place");
    type("COSTS what");
    expect(found()[0]).toBe("What it costs /fares/ page");
    type("§");
    expect(found()).toEqual([]);
    expect(screen.getByText("Nothing is called that.")).toBeTruthy();
    key("Enter");
    expect(close, "there is nothing to go to").not.toHaveBeenCalled();
  });

  it("goes to what is chosen with the keys", () => {
    type("fares");
    expect(active()).toBe("Fares fares block");
    key("ArrowUp");
    expect(active(), "the list does not begin again at its end").toBe("Fares fares block");
    key("ArrowDown");
    expect(active()).toBe("What it costs /fares/ page");
    key("Enter");
    expect(close).toHaveBeenCalledTimes(1);
    expect(where()).toBe("/small/pages?doc=pages%2Ffares.html");
  });

  it("goes to what is pointed at, and is closed by Escape and beside it", () => {
    fireEvent.click(screen.getByText("Footer"));
    expect(where()).toBe("/small/blocks/footer");
    key("Escape");
    expect(close).toHaveBeenCalledTimes(2);
    fireEvent.mouseDown(screen.getByRole("dialog").parentElement as HTMLElement);
    expect(close).toHaveBeenCalledTimes(3);
    fireEvent.mouseDown(screen.getByRole("dialog"));
    expect(close, "not within it").toHaveBeenCalledTimes(3);
  });

  it("finds rules, layouts, menus and scripts once they are known", async () => {
    type("main");
    expect(found()).toEqual(["Find and replace “main”  place"]);
    await (
      await asked.next("GET /rules")
    ).answer([{ name: "main-banner", title: "", block: "banner", region: "top" }]);
    await (await asked.next("GET /layouts")).answer([{ name: "main", title: "The main one" }]);
    await (await asked.next("GET /menus")).answer([{ name: "main", title: "Main menu" }]);
    await (
      await asked.next("GET /reference")
    ).answer({
      sets: [],
      entries: [
        { kind: "scripted", name: "main-clock", title: "Clock" },
        { kind: "block", name: "main-x", title: "Not twice" },
      ],
    });
    await waitFor(() => expect(found()).toHaveLength(5));
    expect(found().slice(0, 4), "those first that begin with it").toEqual([
      "main-banner banner into top rule",
      "Main menu main menu",
      "Clock main-clock script",
      "The main one main layout",
    ]);
    fireEvent.click(screen.getByText("main-banner"));
    expect(where()).toBe("/small/rules/main-banner");
  });

  it("finds what the site says, edits and releases, and gives commands", async () => {
    type("quay");
    await (
      await asked.next("POST /words")
    ).answer({
      total: 31,
      seen: "x",
      classes: [],
      spots: [
        { ...spot, doc: "pages/fares.html", before: "at the\n", match: "Quay", after: " of Holm" },
        { ...spot, doc: "blocks/footer.html", kind: "value", before: "", match: "quay", after: "" },
      ],
    });
    await waitFor(() => expect(found()).toHaveLength(3));
    expect(found()).toEqual([
      "at the Quay of Holm in What it costs text",
      "quay in Footer value",
      "Find and replace “quay” 31 spots place",
    ]);
    fireEvent.click(screen.getByText("Find and replace “quay”"));
    expect(where()).toBe("/small/words?text=quay");
    type("lamp");
    key("Enter");
    expect(lit).toHaveBeenCalledTimes(1);
    expect(where(), "a command leads nowhere").toBe("/small/words?text=quay");
    await (
      await asked.next("GET /review")
    ).answer({
      records: [{ id: 7, title: "Edit the lamp", at: "2026-05-04T10:00:00Z" }],
      releases: [{ number: 3, title: "Lamps", at: "2026-05-03T10:00:00Z" }],
    });
    await waitFor(() => expect(found()).toHaveLength(4));
    fireEvent.click(screen.getByText("Release 3"));
    expect(where()).toBe("/small/review");
  });
});
