// @vitest-environment jsdom
import { operated, place } from "../testing/placements";
import { draw, server, sized, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { WallSubject } from "../shared/wall/subject";
import { Placements } from "./Placements";

const idle: WallSubject = { question: "stands", about: "", states: [], against: "live" };
const look = vi.fn();
const done = vi.fn();

describe("the placements of a block", () => {
  let asked: Server;
  beforeEach(() => {
    sized();
    look.mockReset();
    done.mockReset();
    asked = server();
    draw(<Placements block="footer" idle={idle} look={look} done={done} />);
  });
  const list = async (placements: object[]) => {
    await (await asked.next("GET /blocks/footer/placements")).answer(placements);
    await waitFor(() => expect(screen.queryByText("Looking where it stands…")).toBeNull());
  };
  const rows = () =>
    screen
      .getAllByRole("row")
      .slice(1)
      .filter((r) => r.dataset.page);
  const cells = (i: number) =>
    within(rows()[i] as HTMLElement)
      .getAllByRole("cell")
      .map((c) => c.textContent.trim());

  it("say of a detach that it is one, also when it is done", async () => {
    await list([place("/a/"), place("/b/")]);
    fireEvent.click(screen.getByRole("button", { name: "Detach on Page /a/" }));
    await (
      await asked.next("POST /operations")
    ).answer(operated({ changes: 0 }, "No page changes. No new errors."));
    fireEvent.click(screen.getByRole("button", { name: "Detach" }));
    await (
      await asked.next("POST /change-sets")
    ).answer({ id: 1, title: "Detach footer", version: 2 });
    await (
      await asked.next("GET /blocks/footer/placements")
    ).answer([place("/a/", { kind: "copy" }), place("/b/")]);
    expect(screen.queryByText(/follows the block again/)).toBeNull();
  });

  it("are chosen, and what is done to them is said with the button that does it", async () => {
    await list([
      place("/a/"),
      place("/b/"),
      place("/c/", { kind: "copy", standing: "both" }),
      place("/d/", { kind: "hidden" }),
    ]);
    const box = (name: RegExp) => screen.getByRole<HTMLInputElement>("checkbox", { name });
    expect(screen.queryByRole("checkbox", { name: /Page \/d\// })).toBeNull();
    fireEvent.click(box(/Page \/a\//));
    expect((await asked.next("POST /operations")).body).toHaveProperty("operation", "detach");
    fireEvent.click(box(/Page \/b\//));
    const both = await asked.next("POST /operations", "/b/");
    expect(both.body).toEqual({
      operation: "detach",
      spots: ["/a/", "/b/"].map((p) => ({
        doc: `pages${p}x.html`,
        address: "foot/rule:footer",
      })),
    });
    await both.answer(operated({ changes: 0 }, "No page changes. No new errors."));
    expect(screen.getByText("2 chosen")).toBeTruthy();
    expect(screen.getByText(/2 pages keep 2 copies, and later edits of the block/)).toBeTruthy();
    expect(screen.getByText(/leave them alone\. 0 other pages follow/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Detach 2" })).toBeTruthy();

    fireEvent.click(box(/all that are shown/));
    expect(screen.getAllByRole("tab").map((t) => t.textContent)).toEqual([
      "Update from the block",
      "Detach 2",
      "Link again",
      "Replace 2",
    ]);
    fireEvent.click(screen.getByRole("tab", { name: "Update from the block" }));
    const update = await asked.next("POST /operations", "update");
    expect(update.body).toEqual({
      operation: "update",
      copies: [{ doc: "pages/c/x.html", address: "foot/rule:footer" }],
    });
    await update.answer({
      ...operated({ changes: 0 }, "No page changes."),
      answer: "updated",
      change_set: { title: "", changes: [] },
      left: [
        { doc: "pages/c/x.html", address: "foot/rule:footer", page: "/c/", why: "", conflicts: 1 },
      ],
    });
    expect(screen.getByText("Something is to be settled first.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Update from the block" })).toBeNull();
    await (
      await asked.next("GET /copies/texts")
    ).answer({
      text: "at ten",
      merged: [
        { text: "at ", conflict: false, base: "at ", copy: "at ", block: "at " },
        { text: "", conflict: true, base: "nine", copy: "ten", block: "" },
      ],
      seen: "x1",
    });
    expect(screen.getByText(/1 of 1 place is to be settled/)).toBeTruthy();
    expect(screen.getByText("nothing")).toBeTruthy();
    fireEvent.click(screen.getByRole("radio", { name: /The block's/ }));
    expect(screen.getByText("Everything is settled.")).toBeTruthy();
    expect((await asked.next("POST /operations", "x1")).body).toEqual({
      operation: "update",
      copies: [
        {
          doc: "pages/c/x.html",
          address: "foot/rule:footer",
          choices: [{ take: "block" }],
          seen: "x1",
        },
      ],
    });
    fireEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(box(/Page \/a\//).checked).toBe(false);
    expect(screen.queryByText(/chosen/)).toBeNull();
  });

  it("are detached in the block in which they stand, where one chooses that", async () => {
    await list([place("/a/", { via: "blocks/teaser.html", address: "main/teaser~1/footer~1" })]);
    fireEvent.click(screen.getByRole("button", { name: "Detach on Page /a/" }));
    expect((await asked.next("POST /operations")).body).not.toHaveProperty("in_block");
    fireEvent.click(screen.getByRole("radio", { name: "In teaser, for all its pages" }));
    const inBlock = await asked.next("POST /operations");
    expect(inBlock.body).toHaveProperty("in_block", true);
    await inBlock.answer(operated({ changes: 0 }, "No page changes. No new errors."));
    expect(screen.getByText(/Every page that shows it there keeps a copy/)).toBeTruthy();
    expect(screen.queryByRole("checkbox", { name: /Detach the blocks inside/ })).toBeNull();
  });

  it("are replaced by another block, and what has no place there is said", async () => {
    await list([place("/a/")]);
    fireEvent.click(screen.getByRole("button", { name: "Replace on Page /a/" }));
    expect(screen.getByText("Choose the block to put there.")).toBeTruthy();
    expect(asked.count("POST /operations")).toBe(0);
    await (
      await asked.next("GET ")
    ).answer({
      version: 1,
      pages: [],
      blocks: [
        { name: "footer", title: "Footer" },
        { name: "band", title: "Band" },
      ],
    });
    fireEvent.mouseDown(screen.getByRole("combobox", { name: "Block to put there" }));
    expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(["Band"]);
    fireEvent.click(screen.getByRole("option", { name: "Band" }));
    const first = await asked.next("POST /operations");
    expect(first.body).not.toHaveProperty("fields");
    await first.answer({
      ...operated({ changes: 1 }, "Changes 1 page. No new errors."),
      answer: "replaced",
      fields: { tone: "" },
      without: [{ doc: "pages/a/x.html", page: "/a/", address: "", field: "tone", text: "loud" }],
    });
    expect(screen.getByText("A value has no place there.")).toBeTruthy();
    expect(screen.getByRole("list", { name: "What has no place" }).textContent).toBe(
      "/a/ tone: loud",
    );
    const field = (name: string) => ({ name, label: name, type: "text" });
    await (await asked.next("GET /blocks/footer")).answer({ fields: [field("tone")] });
    await (await asked.next("GET /blocks/band")).answer({ fields: [field("mood")] });
    fireEvent.mouseDown(await screen.findByRole("combobox", { name: "tone becomes" }));
    fireEvent.click(screen.getByRole("option", { name: "mood" }));
    expect((await asked.next("POST /operations")).body).toHaveProperty("fields", { tone: "mood" });
  });

  it("say who alone sees a spot, and when", async () => {
    await list([
      place("/a/", { audience: "signed-in" }),
      place("/b/", { audience: "signed-out", until: "2026-07-01" }),
      place("/c/", { from: "2026-06-02", until: "2026-06-09" }),
    ]);
    expect([0, 1, 2].map((i) => cells(i)[3])).toEqual([
      "rule footer, only signed in",
      "rule footer, only signed out, until 2026-07-01",
      "rule footer, from 2026-06-02 until 2026-06-09",
    ]);
    fireEvent.change(screen.getByLabelText("Filter"), { target: { value: "signed in" } });
    expect(rows()).toHaveLength(1);
  });

  it("say of each spot how it got there, and what the page has of its own", async () => {
    await list([
      place("/a/"),
      place("/b/", {
        own: [
          { field: "tone", text: "loud", source: "override" },
          { field: "size", text: "2", source: "override" },
        ],
      }),
      place("/c/", { kind: "copy", via: "pages/c/x.html", region: "main" }),
      place("/d/", { kind: "hidden", via: "layouts/page.html" }),
      place("/e/", { via: "blocks/teaser.html" }),
      place("/f/", { via: "menus/main.yaml" }),
    ]);
    expect(cells(0).slice(2)).toEqual(["foot", "rule footer", "linked", "", "ReplaceDetach"]);
    expect(cells(1).slice(2)).toEqual([
      "foot",
      "rule footer",
      "linked, own values",
      "tone: loud, size: 2",
      "ReplaceDetach",
    ]);
    expect(cells(2).slice(2)).toEqual([
      "main",
      "this page's text",
      "one-off copy",
      "",
      "Link again",
    ]);
    expect(cells(3).slice(2), "what is hidden can be neither").toEqual([
      "foot",
      "layout page",
      "taken off this page",
      "",
      "",
    ]);
    expect([cells(4)[3], cells(5)[3]]).toEqual(["inside teaser", "menu main"]);
    expect(screen.getByText("6 of 6 placements")).toBeTruthy();
    fireEvent.click(screen.getByText("Page /b/"));
    expect(look).toHaveBeenCalledWith("/b/");
  });

  it("are found by their page and by how they got there", async () => {
    await list([place("/a/"), place("/b/", { via: "layouts/page.html" })]);
    const filter = (text: string) =>
      fireEvent.change(screen.getByRole("textbox", { name: "Filter" }), {
        target: { value: text },
      });
    filter("LAYOUT");
    expect(rows().map((r) => r.dataset.page)).toEqual(["/b/"]);
    filter("page /a");
    expect(rows().map((r) => r.dataset.page)).toEqual(["/a/"]);
    filter("nowhere");
    expect(screen.getByText("0 of 2 placements")).toBeTruthy();
  });

  it("are detached when one has seen what that means", async () => {
    await list([
      place("/a/"),
      place("/a/", { address: "main/footer~1" }),
      place("/b/"),
      place("/c/", { kind: "copy" }),
    ]);
    fireEvent.click(
      screen.getAllByRole("button", { name: "Detach on Page /a/" })[0] as HTMLElement,
    );
    expect(screen.getByText("Working out what that changes…")).toBeTruthy();
    const asking = await asked.next("POST /operations");
    expect(asking.body).toEqual({
      operation: "detach",
      spots: [{ doc: "pages/a/x.html", address: "foot/rule:footer" }],
    });
    await asking.answer(operated({ changes: 0 }, "No page changes. No new errors."));
    expect(screen.getByText("No byte of any page changes.")).toBeTruthy();
    expect(screen.getByText(/This page keeps a copy, and later edits of the block/)).toBeTruthy();
    expect(
      screen.getByText(
        /1 other page follows the block as before, and so does what stands elsewhere on this one\./,
      ),
    ).toBeTruthy();
    expect(asked.count("POST /change-sets")).toBe(0);
    fireEvent.click(screen.getByRole("button", { name: "Detach" }));
    const save = await asked.next("POST /change-sets");
    expect(save.body).toEqual(operated({}, "").change_set);
    await save.answer({ title: "Detach footer", version: 2 });
    await list([place("/a/", { kind: "copy" })]);
    await waitFor(() => expect(done).toHaveBeenCalledExactlyOnceWith("Detach footer"));
    expect(screen.getByRole("button", { name: "Link again on Page /a/" })).toBeTruthy();
  });

  it("stay as they are where that is refused, and where it cannot be saved", async () => {
    await list([place("/a/"), place("/b/")]);
    fireEvent.click(screen.getByRole("button", { name: "Detach on Page /a/" }));
    await (
      await asked.next("POST /operations")
    ).answer({ title: "x", status: 422, detail: "it stands inside another block" }, 422);
    expect(screen.getByText("it stands inside another block")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Detach" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Detach on Page /b/" }));
    expect(
      screen.queryByText("it stands inside another block"),
      "the question is another one now",
    ).toBeNull();
    await (
      await asked.next("POST /operations")
    ).answer(operated({}, "", [{ message: "the text would end too soon" }]));
    expect(screen.getByText("the text would end too soon")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Detach" })).toBeNull();
  });

  it("are none for a block that stands nowhere, and unknown where the server cannot tell", async () => {
    await list([]);
    expect(screen.getByText(/This block stands nowhere yet/)).toBeTruthy();
  });

  it("are not told where the server fails", async () => {
    await (
      await asked.next("GET /blocks/footer/placements")
    ).answer({ title: "x", status: 500, detail: "the disk is full" }, 500);
    expect((await screen.findByRole("alert")).textContent).toBe("the disk is full");
  });
});
