// @vitest-environment jsdom
import { draw, server, type Server } from "../testing/bench";
import { act, cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { useEffect } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { useBuffers } from "./buffers";
import { useProposal, useText, type Ready } from "./useEdit";
import { begin as beginEdit, end as endEdit } from "./underWay";
import { useSaveKey } from "./useSaveKey";

const path = "blocks/footer.html";
const other = "blocks/footer.css";
const proposal = (sentence: string, problems: object[] = []) => ({
  id: sentence,
  problems,
  impact: { total: 1, counts: {}, effects: "c", added: [], breaks: [], sentence },
});
const overview = (version: number) => ({
  name: "small",
  title: "Small",
  home: "/",
  version,
  pages: [],
  drafts: [],
  titles: {},
  blocks: [],
});

/** Puts a text into the box other than by an event. */
let put: (text: string) => void = () => undefined;

/** A document in a box, what its edit would change, and Ctrl+S. */
function Box({ ready, paths = [path] }: { ready?: Ready; paths?: string[] }) {
  const doc = useText(path);
  const edit = useProposal(paths, "Edit Footer", ready);
  const savable =
    edit.dirty && edit.fresh && edit.proposal?.problems.length === 0 && !doc.stale && !edit.saving;
  useSaveKey(edit.working, savable, () => void edit.save());
  const buffers = useBuffers();
  useEffect(() => {
    put = doc.set;
  });
  return (
    <>
      <textarea aria-label="Text" value={doc.text} onChange={(e) => doc.set(e.target.value)} />
      <p role="status">{edit.failed || edit.proposal?.impact?.sentence}</p>
      <code>
        {[
          doc.loaded ? "" : "loading",
          doc.dirty ? "unsaved" : "",
          doc.stale ? "stale" : "",
          edit.dirty && !edit.fresh ? "working" : "",
          edit.saving ? "saving" : "",
        ]
          .filter(Boolean)
          .join(" ")}
      </code>
      <button type="button" onClick={() => doc.rebase(doc.text)}>
        Go on with mine
      </button>
      <button type="button" onClick={() => buffers.set("small", other, { text: "", base: "c1" })}>
        Empty the style
      </button>
    </>
  );
}

const box = () => screen.getByRole<HTMLTextAreaElement>("textbox", { name: "Text" });
const type = (text: string) => fireEvent.change(box(), { target: { value: text } });
const saveKey = () => fireEvent.keyDown(window, { key: "s", ctrlKey: true });
const state = () => screen.getByText((_, e) => e?.tagName === "CODE").textContent;

describe("a document that is edited", () => {
  let asked: Server;

  const begin = async (part = <Box />) => {
    asked = server();
    draw(part);
    await (await asked.next("GET ")).answer(overview(1));
    await (await asked.next("GET /documents")).answer("saved", 200, { ETag: '"h1"' });
    await waitFor(() => expect(box().value).toBe("saved"));
  };
  beforeEach(() => begin());

  it("is asked about with what it began from, and the newest answer is the one that counts", async () => {
    type("saved 1");
    const first = await asked.next("POST /proposals");
    expect(first.body).toEqual({
      title: "Edit Footer",
      changes: [{ path, before: "h1", text: "saved 1" }],
    });
    type("saved 12");
    await first.answer(proposal("one"));
    const second = await asked.next("POST /proposals");
    expect(second.body).toMatchObject({ changes: [{ before: "h1", text: "saved 12" }] });
    expect(state()).toBe("unsaved working");
    await second.answer(proposal("two"));
    expect(screen.getByRole("status").textContent).toBe("two");
    expect(state()).toBe("unsaved");
  });

  it("is as saved again where one has typed back what stood there", async () => {
    type("saved 1");
    await asked.next("POST /proposals");
    type("saved");
    expect(state()).toBe("");
    expect(screen.getByRole("status").textContent).toBe("");
  });

  it("is saved at Ctrl+S once the answer is there, and then has nothing unsaved", async () => {
    type("new");
    saveKey();
    expect(asked.count("POST /change-sets")).toBe(0);
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    const save = await asked.next("POST /change-sets");
    expect(save.body).toEqual({
      title: "Edit Footer",
      changes: [{ path, before: "h1", text: "new" }],
    });
    await save.answer({ title: "Edit Footer", version: 2 });
    await (await asked.next("GET /documents")).answer("new", 200, { ETag: '"h2"' });
    await (await asked.next("GET ")).answer(overview(2));
    await waitFor(() => expect(state()).toBe(""));
    type("newer");
    expect((await asked.next("POST /proposals", "newer")).body).toMatchObject({
      changes: [{ before: "h2", text: "newer" }],
    });
  });

  it("is saved at Ctrl+S with what has not been drawn yet", async () => {
    type("on");
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    await act(async () => {
      put("one");
      saveKey();
      await Promise.resolve();
    });
    await (await asked.next("POST /proposals", "one")).answer(proposal("two"));
    expect((await asked.next("POST /change-sets")).body).toMatchObject({
      changes: [{ text: "one" }],
    });
  });

  it("is saved at Ctrl+S once an edit has landed that is under way, however long that takes", async () => {
    type("on");
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    beginEdit();
    saveKey();
    await new Promise((later) => setTimeout(later, 700));
    expect(asked.count("POST /change-sets")).toBe(0);
    await act(async () => {
      put("one");
      endEdit();
      await Promise.resolve();
    });
    const last = await asked.next("POST /proposals", "one");
    await new Promise((later) => setTimeout(later, 700));
    expect(asked.count("POST /change-sets")).toBe(0);
    await last.answer(proposal("two"));
    expect((await asked.next("POST /change-sets")).body).toMatchObject({
      changes: [{ text: "one" }],
    });
  });

  it("is not saved later where the server did not answer when one wanted it", async () => {
    type("new");
    saveKey();
    await (await asked.next("POST /proposals")).answer({ status: 500, detail: "full" }, 500);
    type("newer");
    await (await asked.next("POST /proposals", "newer")).answer(proposal("fine"));
    expect(screen.getByRole("status").textContent).toBe("fine");
    expect(asked.count("POST /change-sets")).toBe(0);
  });

  it("is saved again at Ctrl+S for what was typed while it was being saved", async () => {
    type("one");
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    saveKey();
    const first = await asked.next("POST /change-sets");
    type("two");
    saveKey();
    await (await asked.next("POST /proposals", "two")).answer(proposal("two"));
    expect(asked.count("POST /change-sets"), "one after the other").toBe(0);
    await first.answer({ title: "Edit Footer", version: 2, hashes: { [path]: "h2" } });
    await (await asked.next("POST /proposals", "h2")).answer(proposal("two"));
    await (await asked.next("GET /documents")).answer("one", 200, { ETag: '"h2"' });
    await (await asked.next("GET ")).answer(overview(2));
    expect((await asked.next("POST /change-sets")).body).toMatchObject({
      changes: [{ before: "h2", text: "two" }],
    });
  });

  it("is not saved at Ctrl+S where it has problems, nor later when they are gone", async () => {
    type("@{");
    saveKey();
    await (
      await asked.next("POST /proposals")
    ).answer(proposal("", [{ message: "ends too soon" }]));
    type("mended");
    await (await asked.next("POST /proposals")).answer(proposal("fine"));
    expect(screen.getByRole("status").textContent).toBe("fine");
    expect(asked.count("POST /change-sets")).toBe(0);
  });

  it("says so where the server does not answer, and keeps what was typed", async () => {
    type("new");
    await (
      await asked.next("POST /proposals")
    ).answer({ title: "x", status: 500, detail: "the disk is full" }, 500);
    expect(screen.getByRole("status").textContent).toBe("the disk is full");
    expect(box().value).toBe("new");
  });

  it("is kept over a reload, and is stale where somebody else has saved meanwhile", async () => {
    type("mine");
    await asked.next("POST /proposals");
    cleanup();
    asked = server();
    draw(<Box />);
    await (await asked.next("GET ")).answer(overview(2));
    await (await asked.next("GET /documents")).answer("theirs", 200, { ETag: '"h9"' });
    await waitFor(() => expect(state()).toContain("stale"));
    expect(box().value).toBe("mine");
    saveKey();
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    expect(asked.count("POST /change-sets"), "a stale text overwrites nothing").toBe(0);
    fireEvent.click(screen.getByRole("button", { name: "Go on with mine" }));
    expect((await asked.next("POST /proposals", "h9")).body).toMatchObject({
      changes: [{ before: "h9", text: "mine" }],
    });
    expect(state()).not.toContain("stale");
  });

  it("leaves a style or behaviour that is emptied away", async () => {
    cleanup();
    await begin(<Box paths={[path, other]} />);
    fireEvent.click(screen.getByRole("button", { name: "Empty the style" }));
    expect((await asked.next("POST /proposals")).body).toMatchObject({
      changes: [{ path: other, before: "c1", delete: true }],
    });
  });

  it("is saved as another change set where that does the same, and what was typed since stays", async () => {
    cleanup();
    const landed = vi.fn();
    let go: () => void = () => undefined;
    const ready: Ready = (set) =>
      new Promise((done) => {
        go = () =>
          done({ set: { ...set, changes: [{ path, before: "h1", text: "keyed" }] }, landed });
      });
    await begin(<Box ready={ready} />);
    type("plain");
    await (await asked.next("POST /proposals")).answer(proposal("one"));
    saveKey();
    await waitFor(() => expect(state()).toContain("saving"));
    saveKey();
    go();
    const save = await asked.next("POST /change-sets");
    expect(save.body).toMatchObject({ changes: [{ text: "keyed" }] });
    expect(asked.count("POST /change-sets"), "it is saved once").toBe(0);
    await save.answer({ title: "Edit Footer", version: 2 });
    expect(landed).toHaveBeenCalledTimes(1);
    expect(box().value).toBe("keyed");
  });
});
