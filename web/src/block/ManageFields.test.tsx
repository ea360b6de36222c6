// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Field } from "../api/client";
import type { WallSubject } from "../shared/wall/subject";
import { ManageFields } from "./ManageFields";

const field = (name: string, type: string) =>
  ({
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
  }) as unknown as Field;
const idle = { question: "stands", about: "", states: [], against: "" } as WallSubject;
const lost = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    doc: `pages/${i}.html`,
    page: `/p${i}/`,
    address: "main/card~1",
    field: "size",
    text: `big ${i}`,
  }));
const operated = (sentence: string, without: object[] = []) => ({
  answer: "without",
  change_set: { title: sentence, changes: [] },
  proposal: {
    id: "7",
    problems: [],
    impact: { total: 4, counts: {}, effects: "", added: [], breaks: [], sentence },
  },
  without,
});
const done = vi.fn();

describe("what becomes of a field", () => {
  let asked: Server;
  beforeEach(() => {
    done.mockReset();
    asked = server();
    draw(
      <ManageFields
        block="card"
        fields={[field("size", "text"), field("tone", "colour")]}
        idle={idle}
        done={done}
      />,
    );
  });
  const pick = (label: string, option: string) => {
    fireEvent.mouseDown(screen.getByRole("combobox", { name: label }));
    fireEvent.click(screen.getByRole("option", { name: option }));
  };
  const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });

  it("is asked about once it is said, and carried out when one has seen it", async () => {
    expect(button("Change").disabled).toBe(true);
    pick("Field", "size (text)");
    fireEvent.change(screen.getByRole("textbox", { name: "New name of the field" }), {
      target: { value: "width" },
    });
    const asking = await asked.next("POST /operations");
    expect(asking.body).toEqual({
      operation: "rename-field",
      block: "card",
      field: "size",
      to: "width",
    });
    await asking.answer(operated("No page changes. No new errors."));
    expect(screen.getByText("No page changes.")).toBeTruthy();
    fireEvent.click(button("Change"));
    await (
      await asked.next("POST /change-sets")
    ).answer({ title: "Rename size to width", version: 2 });
    await waitFor(() => expect(done).toHaveBeenCalledWith("No page changes. No new errors."));
    expect(button("Change").disabled, "the form is as at the beginning").toBe(true);
  });

  it("tells which values cannot be converted", async () => {
    pick("Field", "size (text)");
    pick("What to do with it", "Change its type");
    fireEvent.mouseDown(screen.getByRole("combobox", { name: "New type of the field" }));
    expect(screen.queryByRole("option", { name: "text" }), "it is that already").toBeNull();
    fireEvent.click(screen.getByRole("option", { name: "number" }));
    const asking = await asked.next("POST /operations");
    expect(asking.body).toEqual({
      operation: "retype-field",
      block: "card",
      field: "size",
      type: "number",
    });
    await asking.answer(operated("Changes 2 pages. No new errors.", lost(2)));
    expect(screen.getByText("2 values cannot be converted")).toBeTruthy();
    expect(screen.getAllByRole("listitem").map((l) => l.textContent)).toEqual([
      "/p0/ main/card~1 big 0",
      "/p1/ main/card~1 big 1",
    ]);
  });

  it("tells of many values in few lines", async () => {
    pick("Field", "size (text)");
    pick("What to do with it", "Remove it");
    await (
      await asked.next("POST /operations")
    ).answer(operated("Changes 9 pages. No new errors.", lost(90)));
    const list = screen.getByText("90 values would stay without effect").closest("details");
    expect(list?.open).toBe(false);
    expect(list?.querySelectorAll("li")).toHaveLength(41);
    expect(list?.textContent).toContain("and 50 more");
    expect(button("Remove").disabled).toBe(false);
  });

  it("says that nothing is lost where that is so", async () => {
    pick("Field", "tone (colour)");
    pick("What to do with it", "Remove it");
    await (
      await asked.next("POST /operations")
    ).answer(operated("No page changes. No new errors."));
    expect(screen.getByText("No document gives it a value.")).toBeTruthy();
  });

  it("says why not where it is refused", async () => {
    pick("Field", "size (text)");
    fireEvent.change(screen.getByRole("textbox", { name: "New name of the field" }), {
      target: { value: "tone" },
    });
    await (
      await asked.next("POST /operations")
    ).answer({ title: "x", status: 422, detail: "card has a field tone already" }, 422);
    expect(screen.getByText("card has a field tone already")).toBeTruthy();
    expect(button("Change").disabled).toBe(true);
  });
});
