// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { act, fireEvent, screen } from "@testing-library/react";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { useLiveOperation } from "./useOperation";

const operated = (title: string, more: { breaks?: object[]; problems?: object[] } = {}) => ({
  change_set: { title, changes: [{ path: "blocks/x.html", before: "", text: title }] },
  proposal: {
    id: "7",
    problems: more.problems ?? [],
    impact: {
      total: 1,
      counts: {},
      effects: "-",
      added: [],
      breaks: more.breaks ?? [],
      sentence: `Would do: ${title}.`,
    },
  },
});

const done = vi.fn();
const close = vi.fn();

/** A form as the places have it: a name, what making it would do, and a button. */
function Form() {
  const [name, setName] = useState("");
  const live = useLiveOperation(name ? { operation: "new-block", block: name } : null, done);
  return (
    <form aria-label="New" {...live.form(close)}>
      <input aria-label="Name" value={name} onChange={(e) => setName(e.target.value)} />
      <p role="status">{live.error || live.operated?.proposal.impact?.sentence}</p>
      <button type="submit" disabled={!live.savable}>
        Make it
      </button>
    </form>
  );
}

const name = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Name" });
const type = (text: string) => fireEvent.change(name(), { target: { value: text } });
const enter = () => fireEvent.keyDown(name(), { key: "Enter" });

describe("an operation that is asked about while its form is filled in", () => {
  let asked: Server;
  beforeEach(() => {
    done.mockReset();
    close.mockReset();
    asked = server();
    draw(<Form />);
  });

  it("says what it would do, and saves just that when its button is pressed", async () => {
    type("hours");
    const question = await asked.next("POST /operations");
    expect(question.body).toEqual({ operation: "new-block", block: "hours" });
    expect(screen.getByRole<HTMLButtonElement>("button").disabled).toBe(true);
    await question.answer(operated("Make hours"));
    expect(screen.getByRole("status").textContent).toBe("Would do: Make hours.");
    fireEvent.submit(screen.getByRole("form"));
    const save = await asked.next("POST /change-sets");
    expect(save.body).toEqual(operated("Make hours").change_set);
    await save.answer({ title: "Make hours", version: 2 });
    expect(done).toHaveBeenCalledExactlyOnceWith("Make hours", {
      operation: "new-block",
      block: "hours",
    });
  });

  it("is carried out once when Enter was pressed before its answer came", async () => {
    type("hours");
    enter();
    await (await asked.next("POST /operations")).answer(operated("Make hours"));
    await (await asked.next("POST /change-sets")).answer({ title: "Make hours", version: 2 });
    expect(done).toHaveBeenCalledTimes(1);
    expect(asked.count("POST /change-sets")).toBe(0);
  });

  it("is shown and not carried out where it breaks something, or cannot be", async () => {
    for (const more of [
      { breaks: [{ code: "unresolved-call" }] },
      { problems: [{ message: "no" }] },
    ]) {
      type(`hours-${Object.keys(more)[0] ?? ""}`);
      enter();
      await (await asked.next("POST /operations")).answer(operated("Make hours", more));
      expect(screen.getByRole("status").textContent).toBe("Would do: Make hours.");
      expect(asked.count("POST /change-sets")).toBe(0);
    }
  });

  it("is not carried out where one has typed on since Enter", async () => {
    type("hour");
    enter();
    type("hours");
    const question = await asked.next("POST /operations");
    expect(question.body).toEqual({ operation: "new-block", block: "hours" });
    await question.answer(operated("Make hours"));
    expect(asked.count("POST /change-sets")).toBe(0);
  });

  it("never shows the answer to an earlier question", async () => {
    type("one");
    const first = await asked.next("POST /operations");
    type("two");
    const second = await asked.next("POST /operations");
    await second.answer(operated("Make two"));
    await first.answer(operated("Make one"));
    expect(screen.getByRole("status").textContent).toBe("Would do: Make two.");
    type("");
    expect(screen.getByRole("status").textContent).toBe("");
    expect(screen.getByRole<HTMLButtonElement>("button").disabled).toBe(true);
  });

  it("says why it cannot be, and why it could not be saved, and can be tried again", async () => {
    type("footer");
    await (
      await asked.next("POST /operations")
    ).answer({ title: "Taken", status: 422, detail: "footer is taken" }, 422);
    expect(screen.getByRole("status").textContent).toBe("footer is taken");
    type("feet");
    await (await asked.next("POST /operations")).answer(operated("Make feet"));
    fireEvent.submit(screen.getByRole("form"));
    await (
      await asked.next("POST /change-sets")
    ).answer({ title: "Conflict", status: 409, detail: "was changed elsewhere" }, 409);
    expect(screen.getByRole("status").textContent).toBe("was changed elsewhere");
    expect(done).not.toHaveBeenCalled();
    fireEvent.submit(screen.getByRole("form"));
    await (await asked.next("POST /change-sets")).answer({ title: "Make feet", version: 3 });
    expect(done).toHaveBeenCalledTimes(1);
  });

  it("leaves what was asked for while it was being saved", async () => {
    type("one");
    await (await asked.next("POST /operations")).answer(operated("Make one"));
    fireEvent.submit(screen.getByRole("form"));
    const save = await asked.next("POST /change-sets");
    type("two");
    const second = await asked.next("POST /operations");
    await save.answer({ title: "Make one", version: 2 });
    await second.answer(operated("Make two"));
    expect(screen.getByRole("status").textContent).toBe("Would do: Make two.");
  });

  it("is left by Escape", () => {
    act(() => name().focus());
    fireEvent.keyDown(name(), { key: "Escape" });
    expect(close).toHaveBeenCalledTimes(1);
  });
});
