// @vitest-environment jsdom
import { draw, Events, server, type Server } from "../testing/bench";
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "./client";
import { useEvents, useSave, useStep } from "./changes";
import { useOverview, useReview } from "./queries";

const told = vi.fn();

/** A window that shows the overview and what differs, hears of events, and can save. */
function Window() {
  const overview = useOverview();
  const review = useReview();
  const save = useSave();
  const undo = useStep("undo");
  useEvents(told);
  return (
    <>
      <p role="status">
        {overview.data?.title} {overview.data?.checked ? "checked" : "checking"}{" "}
        {review.data?.records.length}
      </p>
      <button type="button" onClick={() => save.mutate({ title: "Mine", changes: [] })}>
        Save
      </button>
      <button type="button" onClick={() => undo.mutate()}>
        Undo
      </button>
    </>
  );
}

const overview = (title: string, checked = true) => ({
  name: "small",
  title,
  home: "/",
  version: 3,
  checked,
  pages: [],
  drafts: [],
  titles: {},
  blocks: [],
});
const status = () => screen.getByRole("status").textContent;

describe("what the server tells of", () => {
  let asked: Server;
  const events = () => {
    expect(Events.open).toHaveLength(1);
    return Events.open[0] as Events;
  };
  const waiting = () => asked.waiting.map((w) => w.request).sort();
  const answerAll = async (title: string, checked = true) => {
    await (await asked.next("GET ")).answer(overview(title, checked));
    await (await asked.next("GET /review")).answer({ records: [1, 2] });
  };

  beforeEach(() => {
    told.mockReset();
    asked = server();
    draw(<Window />);
  });

  it("is listened to for the site that is open, as long as it is", async () => {
    expect(events().address).toBe("/api/v1/sites/small/events");
    await answerAll("Small");
    cleanup();
    expect(Events.open).toHaveLength(0);
  });

  it("is caught up with where checks ended before anybody listened", async () => {
    await answerAll("Small", false);
    await waitFor(() => expect(status()).toContain("checking"));
    await events().send("hello");
    expect(waiting(), "only the overview tells whether they have").toEqual(["GET "]);
    await (await asked.next("GET ")).answer(overview("Small"));
    await waitFor(() => expect(status()).toContain("checked"));
  });

  it("needs no catching up with where they had ended already", async () => {
    await answerAll("Small");
    await events().send("hello");
    expect(waiting()).toEqual([]);
  });

  it("makes all be asked anew when checks end, and when the connection is back", async () => {
    await answerAll("Small", false);
    await events().send("checks");
    expect(waiting()).toEqual(["GET ", "GET /review"]);
    await answerAll("Once more");
    await events().send("hello");
    expect(waiting()).toEqual([]);
    await events().send("hello");
    expect(waiting(), "anything can have happened meanwhile").toEqual(["GET ", "GET /review"]);
    await answerAll("Back");
    await waitFor(() => expect(status()).toContain("Back"));
    expect(told).not.toHaveBeenCalled();
  });

  it("names what others saved and published", async () => {
    await answerAll("Small");
    await events().send("hello");
    await events().send("draft", { title: "Edit Footer", version: 4, by: "another" });
    expect(told).toHaveBeenCalledWith("draft", "Edit Footer");
    await answerAll("Theirs");
    await events().send("release", { title: "Autumn", version: 5, by: "" });
    expect(told).toHaveBeenCalledWith("release", "Autumn");
    expect(waiting()).toEqual(["GET ", "GET /review"]);
  });

  it("is no news where it is one's own save, whichever comes first", async () => {
    await answerAll("Small");
    await events().send("hello");
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    const save = await asked.next("POST /change-sets");
    expect(save.by, "the server is told whose it is").toBe(client);
    await events().send("draft", { title: "Mine", version: 4, by: client });
    await save.answer({ title: "Mine", version: 4 });
    await answerAll("Mine");
    expect(told).not.toHaveBeenCalled();
    expect(waiting()).toEqual([]);
    await events().send("draft", { title: "Theirs", version: 5, by: "another" });
    expect(told).toHaveBeenCalledTimes(1);
  });

  it("is no news where it is one's own undoing", async () => {
    await answerAll("Small");
    await events().send("hello");
    fireEvent.click(screen.getByRole("button", { name: "Undo" }));
    await (await asked.next("POST /undo")).answer({ title: "Undone: Mine", version: 7 });
    await answerAll("As before");
    await events().send("draft", { title: "Undone: Mine", version: 7, by: client });
    expect(waiting()).toEqual([]);
    expect(told).not.toHaveBeenCalled();
  });
});
