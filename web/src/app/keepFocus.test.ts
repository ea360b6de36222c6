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

  const draw = (address: string) => {
    at("panel").innerHTML = `<input id="i"><button data-first id="first">${address}</button>`;
    at("panel").dataset.at = address;
  };

  it("goes to what a place begins with, and waits for it while the last one is still there", async () => {
    draw("/site/blocks/footer?tab=make");
    at("i").focus();
    const old = at("first");
    focusPlace("/site/rules/banner?as=guest");
    await new Promise((done) => setTimeout(done, 1500)); // longer than anything stays of itself
    expect(document.activeElement).not.toBe(old);
    draw("/site/rules/banner?as=guest&on=day");
    await frames(3);
    expect(document.activeElement).toBe(at("first"));
  });

  it("has what stays where the address is that already", async () => {
    draw("/site/blocks/footer?tab=make");
    focusPlace("/site/blocks/footer?tab=values");
    at("panel").dataset.at = "/site/blocks/footer?tab=values";
    await vi.waitFor(() => expect(document.activeElement).toBe(at("first")), 3000);
  });

  it("leaves alone who pressed something meanwhile", async () => {
    draw("/site/blocks/footer");
    focusPlace("/site/rules");
    at("i").focus();
    at("i").dispatchEvent(new Event("pointerdown", { bubbles: true }));
    draw("/site/rules");
    await frames(3);
    expect(document.activeElement).not.toBe(at("first"));
  });
});
