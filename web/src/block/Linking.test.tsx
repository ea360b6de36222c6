// @vitest-environment jsdom
import { operated, place } from "../testing/placements";
import { draw, server, sized, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { WallSubject } from "../shared/wall/subject";
import { Placements } from "./Placements";

const at = (page: string) => ({
  ...{ doc: `pages${page}x.html`, address: "foot/rule:footer", page },
  ...{ fits: [], made: [], lost: [], left: false, now: "" },
});
const fit = { field: "tone", label: "Tone", text: "loud", words: "loud" };

const idle: WallSubject = { question: "stands", about: "", states: [], against: "live" };
const look = vi.fn();
const done = vi.fn();

describe("copies that are linked again", () => {
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

  it("say how a copy stands, and what goes when it is linked again", async () => {
    const copy = place("/a/", { kind: "copy", standing: "edited" });
    await list([copy, place("/b/", { kind: "copy" })]);
    expect(cells(0)[4]).toBe("one-off copychanged here");
    expect(cells(1)[4]).toBe("one-off copy");
    expect(screen.queryByRole("button", { name: "Compare on Page /b/" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Link again on Page /a/" }));
    await (
      await asked.next("GET /copies/texts")
    ).answer({
      standing: "edited",
      why: "",
      text: "own",
      base: "old",
      now: "old",
      head: "",
      now_head: "",
      gone: false,
      restyled: true,
    });
    await (await asked.next("GET ")).answer({ version: 1, pages: [], blocks: [] });
    await (
      await asked.next("POST /operations")
    ).answer({
      ...operated({ changes: 1 }, "Changes 1 page. No new errors."),
      answer: "linked",
      linked: [
        {
          ...at("/a/"),
          ...{ fits: [{ ...fit, text: "[]", words: "no entries" }], now: "new", lost: ["own"] },
        },
      ],
    });
    const beside = await screen.findByRole("region", { name: "How the copy stands" });
    expect(beside.textContent).toContain(
      "What fits its fields becomes values of this placement: Tone: no entries.",
    );
    expect(beside.textContent).toContain("What else is marked on the left below goes");
    expect(beside.textContent).toContain("another style or behaviour");
    expect(within(beside).queryByText("No difference.")).toBeNull();

    const rest = screen.getByRole("radiogroup", { name: "What fits no field" });
    fireEvent.click(within(rest).getByRole("radio", { name: "becomes fields of footer" }));
    const fields = await asked.next("POST /operations", "fields");
    expect(fields.body).toHaveProperty("rest", "fields");
    await fields.answer({
      ...operated({ changes: 1 }, "Changes 1 page. No new errors."),
      answer: "linked",
      linked: [{ ...at("/a/"), fits: [fit], now: "own", made: ["part"] }],
    });
    expect(
      screen.getByText("footer gets a field: part. Elsewhere it shows what it did."),
    ).toBeTruthy();
    expect(beside.textContent).toContain("Nothing else changes on the page.");
    expect(within(beside).getByText("No difference.")).toBeTruthy();

    fireEvent.click(within(rest).getByRole("radio", { name: "stays: leave the copy" }));
    await (
      await asked.next("POST /operations", "stays")
    ).answer({
      ...operated({}, ""),
      change_set: { title: "", changes: [] },
      answer: "linked",
      linked: [{ ...at("/a/"), left: true, now: "new", lost: ["own"] }],
    });
    expect(screen.getByText("Nothing is linked: something would go with it.")).toBeTruthy();
    expect(beside.textContent).toContain("would go if it were linked again");
    expect(screen.queryByRole("button", { name: "Link again" })).toBeNull();
  });

  it("say of several that are linked again what goes with each, most first", async () => {
    const copy = { kind: "copy", standing: "edited" };
    await list([place("/a/", copy), place("/b/", copy)]);
    fireEvent.click(screen.getByRole("checkbox", { name: "Choose all that are shown" }));
    await (
      await asked.next("POST /operations")
    ).answer({
      ...operated({ changes: 2 }, "Changes 2 pages. No new errors."),
      answer: "linked",
      linked: [
        { ...at("/b/"), lost: ["<p>own", "words</p>"] },
        { ...at("/a/"), fits: [fit] },
      ],
    });
    const going = within(screen.getByRole("list", { name: "What goes" }));
    expect(going.getAllByRole("listitem").map((l) => l.textContent)).toEqual([
      "Page /b/ 2 lines written into it go:<p>own\nwords</p>",
      "Page /a/ keeps Tone: loud as values of its own. No value of it is lost.",
    ]);
    expect(screen.getByText(/These 2 pages follow the block again/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Link 2 again" })).toBeTruthy();

    fireEvent.click(screen.getByRole("radio", { name: "stays: leave such copies" }));
    await (
      await asked.next("POST /operations", "stays")
    ).answer({
      ...operated({ changes: 1 }, "Changes 1 page. No new errors."),
      answer: "linked",
      linked: [
        { ...at("/b/"), lost: ["<p>own", "words</p>"], left: true },
        { ...at("/a/"), fits: [fit] },
      ],
    });
    expect(going.getAllByRole("listitem")[0]?.textContent).toBe(
      "Page /b/ stays a copy. 2 lines written into it would go:<p>own\nwords</p>",
    );
    expect(screen.getByText(/1 of 2 follow the block again/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Link again" })).toBeTruthy();
  });

  it("are linked again when one has seen which pages change", async () => {
    await list([place("/a/", { kind: "copy" })]);
    fireEvent.click(screen.getByRole("button", { name: "Link again on Page /a/" }));
    await (
      await asked.next("POST /operations")
    ).answer(operated({ changes: 1 }, "Changes 1 page. No new errors."));
    expect(screen.getByText("Changes 1 page.")).toBeTruthy();
    expect(screen.getByText(/This page follows the block again from then on/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(screen.queryByText("Changes 1 page.")).toBeNull();
    expect(asked.count("POST /change-sets")).toBe(0);
  });
});
