// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { LiveForm } from "./LiveForm";
import { useLiveOperation } from "./useOperation";

const close = vi.fn();
const done = vi.fn();

function Form({ told }: { told?: string }) {
  const [name, setName] = useState("");
  const live = useLiveOperation(name ? { operation: "new-menu", name, title: name } : null, done);
  return (
    <LiveForm
      label="New menu"
      className="move-page"
      live={live}
      act="Make it"
      close={close}
      hint="Name it."
      told={told}
    >
      <input aria-label="Name" value={name} onChange={(e) => setName(e.target.value)} />
    </LiveForm>
  );
}

const type = (name: string) =>
  fireEvent.change(screen.getByRole("textbox"), { target: { value: name } });
const says = (words: string) =>
  waitFor(() => expect(screen.getByRole("status").textContent).toBe(words));
const button = () => screen.getByRole<HTMLButtonElement>("button", { name: "Make it" });
const operated = (sentence: string, problems: object[] = []) => ({
  change_set: { title: "New menu", changes: [] },
  proposal: {
    id: "7",
    problems,
    impact: problems.length
      ? null
      : { total: 1, counts: {}, effects: "-", added: [], breaks: [], sentence },
  },
});

describe("a form for an operation", () => {
  let asked: Server;
  beforeEach(() => {
    close.mockReset();
    done.mockReset();
    asked = server();
  });

  it("tells what the operation would do, and carries it out when one has seen that", async () => {
    draw(<Form />);
    await says("Name it.");
    expect(button().disabled).toBe(true);
    type("foot");
    await (await asked.next("POST /operations")).answer(operated("No page changes."));
    await says("No page changes.");
    fireEvent.click(button());
    await (await asked.next("POST /change-sets")).answer({ title: "New menu", version: 2 });
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
  });

  it("says why not, and cannot be sent then", async () => {
    draw(<Form told="something else" />);
    type("foot");
    await (
      await asked.next("POST /operations")
    ).answer({ status: 422, detail: "there is one already" }, 422);
    await says("there is one already");
    expect(button().disabled).toBe(true);
    type("foot-2");
    await (
      await asked.next("POST /operations", "foot-2")
    ).answer(operated("", [{ message: "a bad name" }]));
    await waitFor(() => expect(button().disabled).toBe(true));
  });

  it("says other words where the form has its own, and is left by its button", async () => {
    draw(<Form told="Updates links in 2 files." />);
    type("foot");
    await (await asked.next("POST /operations")).answer(operated("No page changes."));
    await says("Updates links in 2 files.");
    fireEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(close).toHaveBeenCalledTimes(1);
  });
});
