// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { settled } from "./underWay";
import { useKeyEdits } from "./useTextEdits";

/** A rule as a form has it: two keys, each set by a button, and the text itself. */
function Form() {
  const [text, setText] = useState("order: 1\n");
  const { set, wrong } = useKeyEdits("rules/x.yaml", text, setText);
  return (
    <>
      <textarea aria-label="Text" value={text} onChange={(e) => setText(e.target.value)} />
      <button type="button" onClick={() => set(["order"], 2)}>
        Order
      </button>
      <button type="button" onClick={() => set(["enabled"], false)}>
        Off
      </button>
      <button type="button" onClick={() => set(["at"], undefined)}>
        No place
      </button>
      <p role="alert">{wrong}</p>
    </>
  );
}

const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const text = () => screen.getByRole<HTMLTextAreaElement>("textbox").value;

describe("edits that the server makes of a text", () => {
  let asked: Server;
  beforeEach(() => {
    asked = server();
    draw(<Form />);
  });

  it("follow one another, each on what the one before gave", async () => {
    press("Order");
    press("Off");
    const first = await asked.next("POST /key-edits");
    expect(first.body).toEqual({
      path: "rules/x.yaml",
      text: "order: 1\n",
      keys: ["order"],
      value: 2,
    });
    expect(asked.count("POST /key-edits"), "the second waits").toBe(0);
    await first.answer({ text: "order: 2\n" });
    const second = await asked.next("POST /key-edits");
    expect(second.body).toMatchObject({ text: "order: 2\n", keys: ["enabled"], value: false });
    await second.answer({ text: "order: 2\nenabled: false\n" });
    expect(text()).toBe("order: 2\nenabled: false\n");
  });

  it("begin from what was typed meanwhile, and take a key away with null", async () => {
    fireEvent.change(screen.getByRole("textbox"), { target: { value: "order: 7\n" } });
    press("No place");
    const edit = await asked.next("POST /key-edits");
    expect(edit.body).toMatchObject({ text: "order: 7\n", value: null });
    await edit.answer({ text: "order: 7\n" });
  });

  it("leave the text alone where one cannot be made, say why, and go on with the next", async () => {
    press("Order");
    press("Off");
    await (
      await asked.next("POST /key-edits")
    ).answer({ status: 422, detail: "order is said twice" }, 422);
    expect(screen.getByRole("alert").textContent).toBe("order is said twice");
    expect(text()).toBe("order: 1\n");
    const second = await asked.next("POST /key-edits");
    expect(second.body).toMatchObject({ text: "order: 1\n" });
    await second.answer({ text: "order: 1\nenabled: false\n" });
    expect(text()).toBe("order: 1\nenabled: false\n");
    expect(screen.getByRole("alert").textContent).toBe("");
  });

  it("are waited for by who wants to save", async () => {
    expect(settled()).toBeNull();
    press("Order");
    press("Off");
    const saved = vi.fn();
    void settled()?.then(saved);
    await (await asked.next("POST /key-edits")).answer({ text: "order: 2\n" });
    await act(async () => {});
    expect(saved).not.toHaveBeenCalled();
    await (await asked.next("POST /key-edits")).answer({ text: "order: 2\nenabled: false\n" });
    await waitFor(() => expect(saved).toHaveBeenCalledTimes(1));
    expect(settled()).toBeNull();
  });
});
