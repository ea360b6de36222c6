// @vitest-environment jsdom
import { act, render } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Live } from "./Live";

const light = { address: "footer/rule:main", scroll: true };
const at = (edit: number, page = "/a/") => `http://site/_edit/${edit}${page}`;

describe("a page that another version takes the place of", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal(
      "ResizeObserver",
      class {
        observe() {
          // there is no layout here
        }
        disconnect() {
          // nor an end to it
        }
      },
    );
  });

  /** Draws a page, and gives what its frames are told and a way to let them tell something. */
  function draw(lit: typeof light | { address: string } = light) {
    const show = (url: string) => <Live url={url} width={800} title="Page" light={lit} />;
    const drawn = render(show(at(1)));
    act(() => {
      vi.advanceTimersByTime(50);
    });
    const frame = (url: string) =>
      drawn.container.querySelector<HTMLIFrameElement>(`iframe[src="${url}"]`);
    const tell = (url: string, message: object) => {
      const source = frame(url)?.contentWindow ?? null;
      if (!source) throw new Error(`no frame shows ${url}`);
      const told: { shelf: string; scroll?: boolean; top?: number; lit?: number | null }[] = [];
      source.postMessage = (m: never) => told.push(m);
      act(() => {
        dispatchEvent(new MessageEvent("message", { data: message, source }));
      });
      return (kind: string) => told.find((m) => m.shelf === kind);
    };
    return { tell, turn: (url: string) => drawn.rerender(show(url)) };
  }
  const ready = { shelf: "ready" };

  it("stands as that stood, once it has told how", () => {
    const { tell, turn } = draw();
    expect(tell(at(1), ready)("light")?.scroll, "the first comes to what is lit").toBe(true);
    tell(at(1), { shelf: "scrolled", top: 70, lit: 12 });
    turn(at(2));
    const told = tell(at(2), ready);
    expect(told("light")?.scroll).toBe(false);
    expect(told("scroll")).toMatchObject({ top: 70, lit: 12 });
    turn(at(3));
    expect(tell(at(3), ready)("light")?.scroll, "the second has not told how it stands").toBe(true);
  });

  it("comes to what is lit where that was not there yet, and on another page", () => {
    const { tell, turn } = draw();
    tell(at(1), ready);
    turn(at(2));
    const told = tell(at(2), ready);
    expect(told("light")?.scroll).toBe(true);
    expect(told("scroll")).toBeUndefined();
    tell(at(2), { shelf: "scrolled", top: 70, lit: 12 });
    turn(at(3, "/b/"));
    expect(tell(at(3, "/b/"), ready)("light")?.scroll).toBe(true);
  });

  it("stays at its top where nothing is sought and nobody scrolled", () => {
    const { tell, turn } = draw({ address: "footer/rule:main" });
    tell(at(1), ready);
    turn(at(2));
    expect(tell(at(2), ready)("scroll")).toMatchObject({ top: 0, lit: null });
  });
});
