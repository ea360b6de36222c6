// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { fireEvent, screen, within } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { CallPanel } from "../shared/calls/CallPanel";
import { RowLists } from "../shared/calls/RowLists";

const textField = (name: string, more = {}) => ({
  name,
  type: "text",
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
  ...more,
});
const reference = {
  menus: [],
  assets: [],
  entries: [
    {
      name: "hours",
      title: "Opening hours",
      kind: "block",
      category: "",
      about: "When a desk is open.",
      call: "@{hours /}",
      encloses: false,
      on: true,
      pages: 3,
      fields: [
        textField("port", { required: true }),
        textField("phone", { default_text: "0900", from: "page.phone" }),
      ],
    },
    {
      name: "film",
      title: "Film button",
      kind: "block",
      category: "",
      about: "",
      call: "@{film /}",
      encloses: false,
      on: true,
      pages: 1,
      fields: [],
    },
  ],
  sets: [],
};
const overview = {
  name: "small",
  title: "Small",
  home: "/",
  version: 1,
  pages: [],
  drafts: [],
  titles: {},
  blocks: [],
  site_origin: "http://site.test",
};

async function answerAhead(asked: Server) {
  await (await asked.next("GET /reference")).answer(reference);
  for (const w of [...asked.waiting].filter((x) => x.request === "GET ")) await w.answer(overview);
}

describe("the form of a call", () => {
  const source = '<p>é</p> @{hours port="north" /}';
  const at = source.indexOf("hours") + 1;
  let asked: Server;
  let said: string[];

  function Panel() {
    const [text, setText] = useState(source);
    return (
      <>
        <CallPanel
          text={text}
          at={at}
          change={(t) => {
            said.push(t);
            setText(t);
          }}
          close={() => said.push("closed")}
        />
        <button onClick={() => setText("other")}>Type elsewhere</button>
      </>
    );
  }
  const found = {
    name: "hours",
    from: source.indexOf("@{") + 1,
    to: source.length + 1,
    address: "",
    arguments: [{ name: "port", text: "north" }],
  };

  beforeEach(async () => {
    asked = server();
    said = [];
    draw(<Panel />);
    await answerAhead(asked);
    const call = await asked.next("POST /calls");
    expect(call.body, "offsets are in bytes").toEqual({ text: source, at: at + 1 });
    await call.answer(found);
  });
  const put = (name: string, value: string) =>
    fireEvent.change(screen.getByRole("textbox", { name }), { target: { value } });

  it("shows what is given, and what stands where nothing is", () => {
    const form = within(screen.getByRole("region", { name: "Call of Opening hours" }));
    expect(form.getByRole<HTMLInputElement>("textbox", { name: "port" }).value).toBe("north");
    expect(form.getByText("set here")).toBeTruthy();
    expect(form.getByText("otherwise page.phone, else 0900")).toBeTruthy();
    expect(form.queryByRole("button", { name: "Reset phone" })).toBeNull();
  });

  it("puts a value into the text as the server writes it, and takes one back", async () => {
    put("phone", "0800");
    const edit = await asked.next("POST /arguments");
    expect(edit.body).toEqual({ text: source, at: found.from + 3, field: "phone", value: "0800" });
    await edit.answer({ text: "one" });
    expect(said).toEqual(["one"]);
    fireEvent.click(screen.getByRole("button", { name: "Reset port" }));
    const back = await asked.next("POST /arguments");
    expect(back.body, "no value is none, not an empty one").not.toHaveProperty("value");
    await back.answer({ text: "two" });
    expect(said).toEqual(["one", "two"]);
  });

  it("leaves in the box what is typed, however it is written, until the text is another", async () => {
    put("phone", "<b>0800");
    await (await asked.next("POST /arguments")).answer({ text: "in order" });
    await (
      await asked.next("POST /calls", "in order")
    ).answer({ ...found, arguments: [{ name: "phone", text: "<b>0800</b>" }] });
    const box = screen.getByRole<HTMLInputElement>("textbox", { name: "phone" });
    expect(box.value).toBe("<b>0800");
    fireEvent.click(screen.getByRole("button", { name: "Type elsewhere" }));
    expect(box.value).toBe("<b>0800</b>");
  });

  it("takes the answer to the last key alone, whatever order they come in", async () => {
    put("phone", "0");
    put("phone", "08");
    const first = await asked.next("POST /arguments");
    const second = await asked.next("POST /arguments");
    await second.answer({ text: "last" });
    await first.answer({ text: "first" });
    expect(said).toEqual(["last"]);
  });

  it("keeps what does not fit in its box and says why", async () => {
    put("port", "@{");
    await (
      await asked.next("POST /arguments")
    ).answer({ status: 422, detail: "port is a text" }, 422);
    expect(screen.getByText("port is a text")).toBeTruthy();
    expect(screen.getByRole<HTMLInputElement>("textbox", { name: "port" }).value).toBe("@{");
    expect(said).toEqual([]);
  });

  it("is closed by its button", () => {
    fireEvent.click(screen.getByRole("button", { name: "Close the form of the call" }));
    expect(said).toEqual(["closed"]);
  });
});

describe("a row of calls as a list", () => {
  const text = 'é @{hours /}@{film /}@{copy of="film"}x@{/copy}';
  const items = [
    { name: "hours", text: "@{hours /}", from: 3, to: 13, copy: false },
    { name: "film", text: "@{film /}", from: 13, to: 22, copy: false },
    { name: "film", text: '@{copy of="film"}', from: 22, to: 40, copy: true },
  ];
  const change = vi.fn();
  const edit = vi.fn();
  let asked: Server;

  beforeEach(async () => {
    change.mockReset();
    edit.mockReset();
    asked = server();
    draw(
      <RowLists
        path="blocks/group.html"
        text={text}
        rows={[{ region: "", items }]}
        change={change}
        edit={edit}
      />,
    );
    await answerAhead(asked);
    await screen.findByText("Opening hours");
  });

  it("names its calls in order and tells a copy", () => {
    expect(
      screen
        .getAllByRole("listitem")
        .map((l) => within(l).getByText(/^(Opening hours|Film button)$/).textContent),
    ).toEqual(["Opening hours", "Film button", "Film button"]);
    expect(
      screen.getAllByRole("listitem").map((l) => l.textContent.includes("one-off copy")),
    ).toEqual([false, false, true]);
    expect(
      screen.queryByRole("button", { name: "Set values of Film button 3" }),
      "a copy has none",
    ).toBeNull();
  });

  it("asks for the rest where one is taken away, and puts what comes back", async () => {
    fireEvent.click(screen.getByRole("button", { name: "Remove Film button 2" }));
    const asking = await asked.next("POST /row-edits");
    expect(asking.body).toEqual({
      path: "blocks/group.html",
      text,
      region: "",
      order: [0, 2],
      add: "",
    });
    await asking.answer({ text: "shorter" });
    expect(change).toHaveBeenCalledExactlyOnceWith("shorter");
  });

  it("leads to the values of a call by its place in characters", () => {
    fireEvent.click(screen.getByRole("button", { name: "Set values of Opening hours 1" }));
    expect(edit).toHaveBeenCalledExactlyOnceWith(text.indexOf("@{hours") + 2);
  });

  it("changes nothing where the server refuses", async () => {
    fireEvent.click(screen.getByRole("button", { name: "Remove Opening hours 1" }));
    await (
      await asked.next("POST /row-edits")
    ).answer({ status: 422, detail: "the text is another one" }, 422);
    expect(change).not.toHaveBeenCalled();
    expect(await screen.findByText("the text is another one")).toBeTruthy();
  });
});
