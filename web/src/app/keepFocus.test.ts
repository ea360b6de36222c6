// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { focusPlace, keepFocus } from "./keepFocus";

const frames = (n = 2) =>
  vi.waitFor(async () => {
    for (let i = 0; i < n; i++) await new Promise((done) => requestAnimationFrame(done));
  });

describe("the focus", () => {
  let end: () => void;
  beforeEach(() => {
    Element.prototype.getClientRects = function () {
      return (this.isConnected ? [{}] : []) as unknown as DOMRectList;
    };
    document.body.innerHTML = `<main id="place"><section id="panel"><p><button id="save">Save</button></p>
      <button id="other">Other</button></section></main>`;
    end = keepFocus();
  });
  afterEach(() => end());
  const at = (id: string) => document.getElementById(id) as HTMLElement;

  it("is taken by what stood around what is gone", async () => {
    at("save").focus();
    at("save").parentElement?.remove();
    await frames();
    expect(document.activeElement).toBe(at("panel"));
    expect(at("panel").tabIndex).toBe(-1);
  });

  it("is taken from what is switched off", async () => {
    at("save").focus();
    (at("save") as HTMLButtonElement).disabled = true;
    await frames();
    expect(document.activeElement).toBe(at("save").parentElement);
  });

  it("stays where others put it, and with nobody who wants it nowhere", async () => {
    at("save").focus();
    at("save").remove();
    at("other").focus();
    await frames();
    expect(document.activeElement).toBe(at("other"));
    at("other").blur();
    document.body.append(document.createElement("i"));
    await frames();
    expect(document.activeElement, "somebody pressed beside it").toBe(document.body);
  });

  it("goes to what a place begins with once that is there, else to the place", async () => {
    focusPlace();
    await frames(1);
    at("panel").innerHTML = `<input id="i"><button data-first id="first">Publish</button>`;
    await frames(3);
    expect(document.activeElement).toBe(at("first"));
  });
});
