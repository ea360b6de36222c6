// @vitest-environment jsdom
import { draw, server } from "../../testing/bench";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Field } from "../../api/client";
import { FieldInput, limits } from "./FieldInput";

const field = (type: Field["type"], more: Partial<Field> = {}): Field => ({
  name: "f",
  type,
  label: "Value",
  help: "",
  required: false,
  choices: [],
  fields: [],
  default: null,
  default_text: "",
  from: "",
  min: "",
  max: "",
  ...more,
});
const choices = {
  pages: [
    { value: "/", title: "Home" },
    { value: "/fares/", title: "Fares and passes" },
  ],
  menus: [
    { value: "main", title: "Main" },
    { value: "foot", title: "foot" },
  ],
  assets: ["/assets/boat.svg", "/assets/terms.pdf"],
};

/** What the form says after each edit. */
let said: string[] = [];

function Form({ field, begin = "", wrong = "" }: { field: Field; begin?: string; wrong?: string }) {
  const [value, setValue] = useState(begin);
  return (
    <FieldInput
      field={field}
      value={value}
      change={(v) => {
        said.push(v);
        setValue(v);
      }}
      choices={choices}
      wrong={wrong}
      about="set here"
    />
  );
}

const put = (role: string, text: string, name: string | RegExp = "Value") =>
  fireEvent.change(screen.getByRole(role, { name }), { target: { value: text } });
const options = () =>
  within(screen.getByRole("listbox"))
    .getAllByRole("option")
    .map((o) => o.textContent);

describe("the editor of a field", () => {
  beforeEach(() => {
    said = [];
    server();
  });

  for (const [type, role, text] of [
    ["text", "textbox", "0900 44 18"],
    ["lines", "textbox", "one\ntwo"],
    ["rich", "textbox", "<b>bold</b>"],
    ["number", "textbox", "3.5"],
    ["link", "combobox", "#top"],
  ] as const) {
    it(`gives a ${type} as it is typed`, () => {
      draw(<Form field={field(type)} />);
      if (type === "rich") fireEvent.click(screen.getByRole("button", { name: "as HTML" }));
      put(role, text);
      expect(said).toEqual([text]);
    });
  }

  it("says what of a rich text is not shown, and how it is saved, once one stops typing", async () => {
    const asked = server();
    const told = (words: string) =>
      waitFor(() => expect(screen.getByRole("status").textContent).toBe(words));
    draw(<Form field={field("rich")} />);
    fireEvent.click(screen.getByRole("button", { name: "as HTML" }));
    put("textbox", "<b>bol");
    put("textbox", "<b>bold");
    const first = await asked.next("POST /rich-texts");
    expect(first.body).toEqual({ text: "<b>bold" });
    await first.answer({ written: "<b>bold</b>", unshown: "its tags do not fit" });
    await told("Its tags do not fit. Saved as <b>bold</b>");
    expect(screen.getByText(/^set here/)).toBeTruthy();
    put("textbox", "<b on=x>bold</b>");
    expect(screen.getByRole("status").textContent, "that was of another text").toBe("");
    await (
      await asked.next("POST /rich-texts")
    ).answer({ written: "<b on=x>bold</b>", unshown: "on is left out" });
    await told("On is left out.");
    put("textbox", "<b>bold</b>");
    await (await asked.next("POST /rich-texts")).answer({ written: "<b>bold</b>", unshown: "" });
    await told("");
    put("textbox", "bold");
    await new Promise((later) => setTimeout(later, 500));
    expect(asked.waiting, "what has no tags is not asked about").toEqual([]);
  });

  it("gives a switch as a word, both ways", () => {
    draw(<Form field={field("switch")} begin="true" />);
    const box = screen.getByRole("switch", { name: "Value" });
    fireEvent.click(box);
    fireEvent.click(box);
    expect(said).toEqual(["false", "true"]);
  });

  it("offers just the choices that there are", () => {
    draw(<Form field={field("choice", { choices: ["calm", "loud"] })} begin="calm" />);
    fireEvent.mouseDown(screen.getByRole("combobox"));
    expect(options()).toEqual(["calm", "loud"]);
    fireEvent.click(screen.getByRole("option", { name: "loud" }));
    expect(said).toEqual(["loud"]);
  });

  it("offers pages, menus and pictures, and takes another address too", () => {
    for (const [type, offered, typed] of [
      ["page", ["Home /", "Fares and passes /fares/"], "/new/"],
      ["menu", ["Main main", "foot"], "side"],
      ["image", ["boat.svg /assets/boat.svg"], "/assets/soon.png"],
    ] as const) {
      const { unmount } = draw(<Form field={field(type)} />);
      fireEvent.mouseDown(screen.getByRole("combobox"));
      expect(options()).toEqual(offered);
      put("combobox", typed);
      expect(said.at(-1)).toBe(typed);
      unmount();
    }
  });

  it("finds a page by words of its title, and tells what an address is called", () => {
    draw(<Form field={field("page")} />);
    put("combobox", "passes far");
    expect(options()).toEqual(["Fares and passes /fares/"]);
    fireEvent.click(screen.getByRole("option"));
    expect(said.at(-1)).toBe("/fares/");
    expect(screen.getByText(/^Fares and passes/)).toBeTruthy();
  });

  it("shows a rich text as one reads it, and edits as HTML what that would lose", async () => {
    const { unmount } = draw(<Form field={field("rich")} begin="a <b>b</b>" />);
    const page = await screen.findByRole("textbox", { name: "Value" });
    await waitFor(() => expect(page.innerHTML).toContain("<strong>b</strong>"));
    expect(said, "looking at it changes nothing").toEqual([]);
    unmount();
    draw(<Form field={field("rich")} begin='<table class="x"><tr><td>1</td></tr></table>' />);
    await screen.findByText(/it has markup that the text editor cannot hold/);
    expect(screen.getByRole<HTMLTextAreaElement>("textbox").value).toContain("<table");
    expect(said).toEqual([]);
  });

  it("takes a colour as it is written or chosen", () => {
    draw(<Form field={field("colour")} begin="#1e6e74" />);
    fireEvent.change(screen.getByLabelText("Value: choose"), { target: { value: "#ffffff" } });
    put("textbox", "rebeccapurple");
    expect(said).toEqual(["#ffffff", "rebeccapurple"]);
    expect(
      screen.getByLabelText<HTMLInputElement>("Value: choose").value,
      "what the box cannot show is grey there",
    ).toBe("#888888");
  });

  it("keeps a link with a name of its own as one value", () => {
    draw(<Form field={field("link")} begin="/fares/" />);
    put("textbox", "Fares", "Words of the link");
    fireEvent.click(screen.getByRole("switch", { name: "Opens in a new tab" }));
    expect(said.map((s) => JSON.parse(s) as unknown)).toEqual([
      { to: "/fares/", label: "Fares" },
      { to: "/fares/", label: "Fares", new_tab: true },
    ]);
    put("textbox", "", "Words of the link");
    fireEvent.click(screen.getByRole("switch", { name: "Opens in a new tab" }));
    expect(said.at(-1), "and as an address alone where it has none").toBe("/fares/");
  });

  it("adds to a list, edits one of it and takes one away, and the rest stays", () => {
    const list = field("list", {
      label: "Links",
      fields: [
        field("text", { name: "label", label: "Label" }),
        field("switch", { name: "on", label: "On" }),
      ],
    });
    draw(<Form field={list} begin='[{"label":"A","more":1},{"label":"B"}]' />);
    const boxes = () => screen.getAllByRole<HTMLInputElement>("textbox", { name: "Label" });
    expect(boxes().map((b) => b.value)).toEqual(["A", "B"]);
    fireEvent.change(boxes()[1] as HTMLInputElement, { target: { value: "C" } });
    fireEvent.click(screen.getAllByRole("switch")[0] as HTMLElement);
    fireEvent.click(screen.getByRole("button", { name: "Add to links" }));
    expect(boxes()).toHaveLength(3);
    fireEvent.click(screen.getByRole("button", { name: "Remove Links 2" }));
    expect(said.map((s) => JSON.parse(s) as unknown)).toEqual([
      [{ label: "A", more: 1 }, { label: "C" }],
      [{ label: "A", more: 1, on: true }, { label: "C" }],
      [{ label: "A", more: 1, on: true }, { label: "C" }, {}],
      [{ label: "A", more: 1, on: true }, {}],
    ]);
  });

  it("doubles what is in a list, and names, folds and focuses it", () => {
    const list = field("list", {
      label: "Links",
      fields: [
        field("switch", { name: "on", label: "On" }),
        field("rich", { name: "text", label: "Text" }),
        field("text", { name: "label", label: "Label" }),
      ],
    });
    const begin = ["A", "B", "C", "D"].map((label) => ({ on: true, label }));
    draw(<Form field={list} begin={JSON.stringify(begin)} />);
    const heads = () =>
      screen
        .getAllByRole("button", { expanded: false })
        .map((b) => b.textContent)
        .filter(Boolean);
    expect(heads(), "a long list begins folded").toEqual(["A", "B", "C", "D"]);
    expect(screen.queryByRole("switch")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Double Links 2" }));
    expect(JSON.parse(said.at(-1) ?? "")).toEqual([...begin.slice(0, 2), ...begin.slice(1)]);
    expect(document.activeElement, "what is new is open, and has the focus").toBe(
      screen.getByRole("switch", { name: "On" }),
    );
    fireEvent.click(screen.getByRole("button", { name: "C" }));
    expect(screen.getAllByRole("switch")).toHaveLength(2);
    fireEvent.click(screen.getByRole("button", { name: "Remove Links 1" }));
    expect(document.activeElement).toBe(screen.getByRole("button", { name: "Add to links" }));
    expect(heads(), "those that were open stay so").toEqual(["B", "D"]);
    fireEvent.click(screen.getByRole("button", { name: "Add to links" }));
    expect(screen.getByText("Links 5"), "one without words is told by its number").toBeTruthy();
  });

  it("says what is wrong in place of what it is", () => {
    draw(<Form field={field("number", { min: "1", max: "5" })} begin="9" wrong="at most 5" />);
    expect(screen.getByText("at most 5")).toBeTruthy();
    expect(screen.queryByText(/set here/)).toBeNull();
    expect(screen.getByRole("textbox").getAttribute("aria-invalid")).toBe("true");
  });

  it("tells what limits a value in the words of its type", () => {
    expect(
      (["text", "number", "list"] as const).map((t) => limits(field(t, { min: "2", max: "4" }))),
    ).toEqual(["2 to 4 characters", "2 to 4", "2 to 4 items"]);
    expect(limits(field("text", { max: "4" }))).toBe("at most 4 characters");
    expect(limits(field("date", { min: "2026-01-01" }))).toBe("at least 2026-01-01");
    expect(limits(field("text"))).toBe("");
  });
});
