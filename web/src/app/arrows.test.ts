// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from "vitest";
import { arrowsInLists } from "./arrows";

beforeEach(() => {
  Element.prototype.scrollIntoView = () => undefined;
  document.body.innerHTML = `
    <ul>
      <li><a href="#a">a</a> <button id="a2">more</button></li>
      <li>only words</li>
      <li><a href="#b">b</a> <button id="b2">more</button></li>
      <li><a href="#c">c</a></li>
    </ul>
    <div tabindex="0" id="box"><ul class="rows-list"><li><a href="#r">r</a></li></ul></div>
    <ul><li><button aria-roledescription="sortable" id="handle">x</button></li><li><button>y</button></li></ul>
    <ol><li><input id="text"></li><li><button>z</button></li></ol>
    <p><button id="out">out</button></p>`;
});

const press = (key: string, more: KeyboardEventInit = {}) => {
  const e = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
  document.addEventListener("keydown", arrowsInLists, { once: true });
  (document.activeElement ?? document.body).dispatchEvent(e);
  document.removeEventListener("keydown", arrowsInLists);
  const at = document.activeElement;
  return at?.id || at?.textContent;
};
const from = (selector: string) => document.querySelector<HTMLElement>(selector)?.focus();

describe("arrow keys in a list", () => {
  it("lead from row to row, staying in the same part of a row, and end where it does", () => {
    from("#a2");
    expect(press("ArrowUp")).toBe("a2");
    expect(press("ArrowDown")).toBe("b2");
    expect(press("ArrowDown")).toBe("c");
    expect(press("ArrowDown")).toBe("c");
    expect(press("Home")).toBe("a");
    expect(press("End")).toBe("c");
    expect(press("ArrowUp")).toBe("b");
  });
  it("lead into the rows of a box that has the focus itself", () => {
    from("#box");
    expect(press("ArrowDown")).toBe("r");
  });
  it("are left to what has a meaning for them, and to those who hold another key", () => {
    from("#handle");
    expect(press("ArrowDown")).toBe("handle");
    from("#text");
    expect(press("ArrowDown")).toBe("text");
    from("#out");
    expect(press("ArrowDown")).toBe("out");
    from("#a2");
    expect(press("ArrowDown", { altKey: true })).toBe("a2");
  });
});
