// @vitest-environment jsdom
import { completionStatus } from "@codemirror/autocomplete";
import { EditorState } from "@codemirror/state";
import { EditorView } from "@codemirror/view";
import { describe, expect, it } from "vitest";
import { help, offer, type Known } from "./completion";

const known: Known = {
  entries: [],
  choices: { pages: [], menus: [], assets: [] },
  fields: [],
};

function editor(doc: string) {
  return new EditorView({
    parent: document.body,
    state: EditorState.create({
      doc,
      selection: { anchor: doc.length },
      extensions: [help(() => known)],
    }),
  });
}

describe("what has become known late", () => {
  it("is offered where somebody is typing what it could complete", () => {
    const view = editor("x @{ca");
    offer(view, known);
    expect(completionStatus(view.state), "nobody is typing").toBeNull();
    view.focus();
    offer(view, known);
    expect(completionStatus(view.state)).not.toBeNull();
  });

  it("is not offered elsewhere", () => {
    const view = editor("x @{ca /} y");
    view.focus();
    offer(view, known);
    expect(completionStatus(view.state)).toBeNull();
  });
});
