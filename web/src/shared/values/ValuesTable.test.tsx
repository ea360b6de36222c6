// @vitest-environment jsdom
import { draw, server, sized, type Server } from "../../testing/bench";
import { createEvent, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ValuesTable } from "./ValuesTable";

const tell = vi.hoisted(() => vi.fn());
vi.mock("../notices", () => ({ tell, tellSaved: tell }));

const field = (name: string, type = "text") => ({
  name,
  type,
  label: name,
  help: "",
  required: false,
  choices: [],
  fields: [],
  default: null,
  default_text: "",
  from: "",
  min: "",
  max: "",
});
const cell = (text: string, source = "default", otherwise = text) => ({
  text,
  source,
  otherwise,
  doc: source === "override" ? "pages/x.html" : "blocks/footer.html",
});
const row = (page: string, ...cells: object[]) => ({
  page,
  title: `Page ${page}`,
  doc: `pages${page}x.html`,
  address: "foot/rule:footer",
  cells,
});
const table = {
  fields: [field("tone"), field("size", "number")],
  rows: [
    row("/a/", cell("calm"), cell("1")),
    row("/b/", cell("loud", "override", "calm"), cell("1")),
    row("/c/", cell("calm", "override", "calm"), cell("2", "override", "1")),
    row("/d/", cell("calm"), cell("", "none")),
  ],
  orphans: [],
};
const operated = (sentence: string, problems: object[] = []) => ({
  change_set: {
    title: "Set values of footer",
    changes: [{ path: "pages/a/x.html", before: "h", text: "new" }],
  },
  proposal: {
    id: "7",
    problems,
    impact: problems.length
      ? null
      : { total: 4, counts: {}, effects: "c---", added: [], breaks: [], sentence },
  },
});

describe("the table of values", () => {
  let asked: Server;
  beforeEach(async () => {
    sized();
    tell.mockReset();
    asked = server();
    draw(<ValuesTable block="footer" idle={null} />);
    await (await asked.next("GET /blocks/footer/values")).answer(table);
    await screen.findByRole("grid", { name: "Values" });
  });
  const at = (spot: string) =>
    document.querySelector<HTMLElement>(`[data-spot="${spot}"]`) as HTMLElement;
  const chosen = () =>
    Array.from(
      document.querySelectorAll<HTMLElement>('[aria-selected="true"]'),
      (e) => e.dataset.spot,
    );
  const texts = (col: number) =>
    Array.from(document.querySelectorAll<HTMLElement>("[data-spot]"))
      .filter((e) => e.dataset.spot?.endsWith(` ${col}`))
      .map((e) => e.textContent.replace(" of its own", "*"));
  const key = (name: string, more = {}) =>
    fireEvent.keyDown(screen.getByRole("grid"), { key: name, ...more });
  const values = async () =>
    (await asked.next("POST /operations")).body as {
      values: { doc: string; field: string; text?: string }[];
    };
  const brief = (b: { values: { doc: string; field: string; text?: string }[] }) =>
    b.values.map((v) => `${v.doc.slice(6, 7)} ${v.field} ${v.text ?? "back"}`);

  it("shows what is inherited and what is a page's own", () => {
    expect(texts(0)).toEqual(["calm", "loud*", "calm*", "calm"]);
    expect(texts(1)).toEqual(["1", "1", "2*", "nothing"]);
    expect(screen.getByText(/Page \/a\/: from/)).toBeTruthy();
    expect(screen.getByTitle("placements").textContent).toBe("4 of 4");
  });

  it("is gone through and chosen in with keys and pointer alike", () => {
    key("ArrowDown");
    expect(chosen()).toEqual(["1 0"]);
    key("ArrowRight");
    key("ArrowDown", { shiftKey: true });
    expect(chosen()).toEqual(["1 1", "2 1"]);
    key("ArrowUp");
    key("ArrowUp");
    key("ArrowUp");
    key("ArrowRight");
    expect(chosen(), "the edge holds").toEqual(["0 1"]);
    fireEvent.click(at("3 0"), { ctrlKey: true });
    expect(chosen(), "another one, far from it").toEqual(["0 1", "3 0"]);
    fireEvent.click(at("3 0"), { ctrlKey: true });
    expect(chosen()).toEqual(["0 1"]);
    fireEvent.click(at("2 0"), { shiftKey: true });
    expect(chosen()).toEqual(["0 0", "0 1", "1 0", "1 1", "2 0", "2 1"]);
    fireEvent.click(screen.getByRole("button", { name: "size" }));
    expect(chosen(), "a column").toEqual(["0 1", "1 1", "2 1", "3 1"]);
  });

  it("sets one value for all that is chosen, and is saved as one edit", async () => {
    fireEvent.click(screen.getByRole("button", { name: "tone" }));
    fireEvent.change(
      within(document.querySelector(".cell-input") as HTMLElement).getByRole("textbox"),
      { target: { value: "loud" } },
    );
    expect(texts(0)).toEqual(["loud*", "loud*", "loud*", "loud*"]);
    const asking = await asked.next("POST /operations");
    expect(asking.body).toMatchObject({ operation: "set-values", block: "footer" });
    expect(brief(asking.body as never), "one page says it already").toEqual([
      "a tone loud",
      "c tone loud",
      "d tone loud",
    ]);
    await asking.answer(operated("Changes 3 pages. No new errors."));
    expect(screen.getByText("Changes 3 pages.")).toBeTruthy();
    fireEvent.keyDown(window, { key: "s", ctrlKey: true });
    const save = await asked.next("POST /change-sets");
    expect(save.body).toEqual(operated("").change_set);
    await save.answer({ title: "Set values of footer", version: 2 });
    await (await asked.next("GET /blocks/footer/values")).answer(table);
    for (const w of [...asked.waiting])
      await w.answer(
        w.request === "GET /reference"
          ? { entries: [], sets: [], menus: [], assets: [] }
          : { pages: [], blocks: [], drafts: [], titles: {} },
      );
    await waitFor(() => expect(tell).toHaveBeenCalledWith("Set values of footer"));
    expect(screen.queryByRole("button", { name: "Save to draft" })).toBeNull();
  });

  it("is written into, cell by cell", async () => {
    const written = (label: string) =>
      screen.getByRole<HTMLInputElement>("textbox", { name: label });
    key("q");
    const first = written("tone on Page /a/");
    expect(first.value, "a letter begins anew").toBe("q");
    fireEvent.change(first, { target: { value: "quiet" } });
    fireEvent.keyDown(first, { key: "Enter" });
    expect(texts(0)[0]).toBe("quiet*");
    expect(chosen(), "Enter goes on below").toEqual(["1 0"]);
    key("F2");
    const second = written("tone on Page /b/");
    expect(second.value, "F2 leaves what stands there").toBe("loud");
    fireEvent.change(second, { target: { value: "loudest" } });
    fireEvent.keyDown(second, { key: "Tab" });
    expect(chosen(), "Tab to the right").toEqual(["1 1"]);
    fireEvent.doubleClick(at("1 1"));
    const third = written("size on Page /b/");
    fireEvent.change(third, { target: { value: "9" } });
    fireEvent.keyDown(third, { key: "Escape" });
    expect(texts(1)[1], "Escape keeps what was there").toBe("1");
    expect(brief(await values())).toEqual(["a tone quiet", "b tone loudest"]);

    key("End");
    expect(chosen()).toEqual(["1 1"]);
    key("Home", { ctrlKey: true });
    expect(chosen()).toEqual(["0 1"]);
    key("Home");
    expect(chosen()).toEqual(["0 0"]);
    key("End", { ctrlKey: true, shiftKey: true });
    expect(chosen()).toEqual(["0 0", "1 0", "2 0", "3 0"]);
    key("x");
    const all = written("tone on Page /d/");
    fireEvent.blur(all);
    expect(texts(0), "what is written goes into all that is chosen").toEqual([
      "x*",
      "x*",
      "x*",
      "x*",
    ]);
  });

  it("takes back what a page says, and that alone", async () => {
    fireEvent.click(screen.getByRole("button", { name: "tone" }));
    key("Delete");
    expect(texts(0)).toEqual(["calm", "calm", "calm", "calm"]);
    expect(brief(await values()), "what is inherited is not there to be taken back").toEqual([
      "b tone back",
      "c tone back",
    ]);
    fireEvent.click(screen.getByRole("button", { name: "Discard" }));
    expect(texts(0)).toEqual(["calm", "loud*", "calm*", "calm"]);
  });

  it("fills down from the first row that is chosen", async () => {
    fireEvent.click(at("1 0"));
    fireEvent.click(at("3 0"), { shiftKey: true });
    key("d", { ctrlKey: true });
    expect(texts(0)).toEqual(["calm", "loud*", "loud*", "loud*"]);
    expect(brief(await values())).toEqual(["c tone loud", "d tone loud"]);
  });

  it("takes a piece of a spreadsheet from the clipboard", async () => {
    fireEvent.click(at("0 0"));
    const grid = screen.getByRole("grid");
    const paste = createEvent.paste(grid, {
      clipboardData: { getData: () => 'wild\t7\r\n"two\nlines"\t8\r\n' },
    });
    fireEvent(grid, paste);
    expect(paste.defaultPrevented).toBe(true);
    expect(brief(await values())).toEqual([
      "a tone wild",
      "a size 7",
      "b tone two\nlines",
      "b size 8",
    ]);
    expect(chosen()).toEqual(["0 0", "0 1", "1 0", "1 1"]);
  });

  it("replaces a piece of many values", async () => {
    fireEvent.change(screen.getByRole("textbox", { name: "Find in values" }), {
      target: { value: "al" },
    });
    fireEvent.change(screen.getByRole("textbox", { name: "Put in its place" }), {
      target: { value: "or" },
    });
    fireEvent.change(screen.getByRole("textbox", { name: "Find in values" }), {
      target: { value: "nowhere" },
    });
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Found nowhere" }).disabled).toBe(
      true,
    );
    fireEvent.change(screen.getByRole("textbox", { name: "Find in values" }), {
      target: { value: "al" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Replace in 3 values" }));
    expect(texts(0)).toEqual(["corm*", "loud*", "corm*", "corm*"]);
    expect(brief(await values())).toEqual(["a tone corm", "c tone corm", "d tone corm"]);
  });

  it("takes back what says only what would show anyway", async () => {
    fireEvent.click(screen.getByRole("button", { name: "Reset 1 that change nothing" }));
    expect(brief(await values())).toEqual(["c tone back"]);
    expect(screen.queryByRole("button", { name: /that change nothing/ })).toBeNull();
  });

  it("is narrowed to the rows in question, and edits no others", async () => {
    fireEvent.click(screen.getByRole("button", { name: "2 have their own tone" }));
    expect(texts(0)).toEqual(["loud*", "calm*"]);
    fireEvent.click(screen.getByRole("button", { name: "2 have their own tone" }));
    fireEvent.click(screen.getByRole("button", { name: "only what differs" }));
    expect(screen.getByTitle("placements").textContent).toBe("2 of 4");
    fireEvent.click(screen.getByRole("button", { name: "only what differs" }));
    fireEvent.change(screen.getByRole("textbox", { name: "Filter" }), {
      target: { value: "/d/, loud" },
    });
    expect(texts(0), "a comma stands for or").toEqual(["loud*", "calm"]);
    fireEvent.click(screen.getByRole("button", { name: "size" }));
    key("d", { metaKey: true });
    expect(brief(await values())).toEqual(["d size 1"]);
  });

  it("says what cannot be saved, and keeps it", async () => {
    fireEvent.click(at("0 1"));
    fireEvent.change(
      within(document.querySelector(".cell-input") as HTMLElement).getByRole("textbox"),
      { target: { value: "12" } },
    );
    await (
      await asked.next("POST /operations")
    ).answer({ title: "x", status: 422, detail: "pages/a/x.html: size is at most 9" }, 422);
    expect(screen.getByText("pages/a/x.html: size is at most 9")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save to draft" }).disabled).toBe(
      true,
    );
    expect(texts(1)[0]).toBe("12*");
  });
});

describe("the table of values of a block", () => {
  const see = async (more: object) => {
    const asked = server();
    draw(<ValuesTable block="footer" idle={null} />);
    await (await asked.next("GET /blocks/footer/values")).answer({ ...table, ...more });
    await waitFor(() => expect(screen.queryByText("Looking at every value…")).toBeNull());
  };
  it("without fields says how it gets one", async () => {
    await see({ fields: [] });
    expect(screen.getByText(/This block has no fields/)).toBeTruthy();
  });
  it("that stands nowhere says so", async () => {
    await see({ rows: [] });
    expect(screen.getByText("This block stands nowhere yet.")).toBeTruthy();
  });
});
