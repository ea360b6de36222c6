// @vitest-environment jsdom
import { draw, server, sized, type Server } from "../testing/bench";
import { act, cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";
import type { Block, ChangeSet, Overview } from "../api/client";
import { Rendering } from "./Rendering";

const page = (path: string, layout = "page") => ({
  path,
  title: path,
  layout,
  doc: `pages${path}index.html`,
});
const overview = {
  name: "small",
  title: "Small",
  home: "/",
  version: 1,
  site_origin: "http://site.test",
  exact: false,
  drafts: [],
  titles: {},
  pages: [page("/"), page("/a/"), page("/b/"), page("/c/", "plain")],
  blocks: [
    { name: "footer", states: "lo-h" },
    { name: "gone", states: "----" },
    { name: "front", states: "l---" },
  ],
} as unknown as Overview;
const block = (name: string) =>
  ({ name, title: name === "footer" ? "Footer" : "Gone", fields: [] }) as unknown as Block;
const noChanges: ChangeSet["changes"] = [];
const shown = () => document.querySelector("iframe.front")?.getAttribute("src");
/** Loads the version that waits behind what is seen. */
const load = async () => {
  const waiting = await waitFor(() => {
    const found = document.querySelector<HTMLIFrameElement>("iframe.waiting");
    expect(found).toBeTruthy();
    return found;
  });
  act(() => {
    window.dispatchEvent(
      new MessageEvent("message", {
        data: { shelf: "ready" },
        source: waiting?.contentWindow ?? null,
      }),
    );
  });
};
const frame = () => waitFor(() => expect(document.querySelector("iframe.front")).toBeTruthy());

/** The addresses that the list offers which opens; none for the block by itself. */
function offered() {
  fireEvent.mouseDown(screen.getByLabelText("Page of the rendering"));
  return screen.getAllByRole("option").map((o) => o.querySelector(".soft")?.textContent ?? "");
}

/** Takes a page from that list. */
function take(page: string) {
  fireEvent.mouseDown(screen.getByLabelText("Page of the rendering"));
  const option = screen
    .getAllByRole("option")
    .find((o) => o.querySelector(".soft")?.textContent === page);
  if (!option) throw new Error(`${page} cannot be chosen`);
  fireEvent.click(option);
}

describe("the rendering of a block", () => {
  beforeEach(() => {
    sized();
    server();
  });
  const see = (name: string, proposalID = "", sound = true) =>
    draw(
      <Rendering
        block={block(name)}
        overview={overview}
        proposalID={proposalID}
        changes={noChanges}
        quiet
        sound={sound}
      />,
    );

  it("is that on a page which shows it, another one than the home page where it can be", async () => {
    see("footer");
    await frame();
    expect(shown()).toBe("http://site.test/_draft/a/?shelf-state=1");
    expect(screen.getByTitle("Footer on /a/")).toBeTruthy();
    expect(offered(), "the page that hides it is none of them").toEqual(["", "/", "/a/"]);
    cleanup();
    see("front");
    await frame();
    expect(shown()).toBe("http://site.test/_draft/?shelf-state=1");
  });

  it("is that on the page which is chosen, and with the edit under way", async () => {
    see("footer", "e7");
    await frame();
    expect(shown()).toBe("http://site.test/_edit/e7/a/");
    take("/");
    expect(
      document.querySelector("iframe.waiting")?.getAttribute("src"),
      "it loads behind the one that is seen",
    ).toBe("http://site.test/_edit/e7/");
    expect(shown()).toBe("http://site.test/_edit/e7/a/");
    await load();
    expect(shown()).toBe("http://site.test/_edit/e7/");
  });

  it("loads each version in a frame of its own, and shows the last one asked for", async () => {
    see("footer");
    await frame();
    const first = document.querySelector("iframe.front");
    take("/");
    const overtaken = document.querySelector<HTMLIFrameElement>("iframe.waiting");
    const late = overtaken?.contentWindow ?? null;
    take("/a/");
    expect(shown(), "it is as before, at once").toContain("/a/");
    expect(document.querySelector("iframe.front")).toBe(first);
    act(() => {
      window.dispatchEvent(new MessageEvent("message", { data: { shelf: "ready" }, source: late }));
    });
    expect(shown()).toContain("/a/");
    cleanup();
    const drawn = see("footer", "e1");
    await frame();
    const again = (id: string) =>
      drawn.again(
        <Rendering
          block={block("footer")}
          overview={overview}
          proposalID={id}
          changes={noChanges}
          quiet
          sound
        />,
      );
    again("e2");
    await waitFor(() =>
      expect(document.querySelector("iframe.waiting")?.getAttribute("src")).toContain("/e2/"),
    );
    const waiting = document.querySelector("iframe.waiting");
    again("e3");
    await waitFor(() =>
      expect(document.querySelector("iframe.waiting")?.getAttribute("src")).toContain("/e3/"),
    );
    expect(
      document.querySelector("iframe.waiting"),
      "one that loads is not led elsewhere",
    ).not.toBe(waiting);
  });

  it("is as wide as the device that is chosen, made smaller to fit", async () => {
    see("footer");
    await frame();
    const width = () => document.querySelector<HTMLIFrameElement>("iframe.front")?.style.width;
    expect(width()).toBe("1280px");
    fireEvent.click(screen.getByRole("button", { name: "Phone" }));
    expect(width()).toBe("390px");
    fireEvent.click(screen.getByRole("button", { name: "Tablet" }));
    expect(width()).toBe("820px");
  });
});

describe("the rendering of a block that stands nowhere", () => {
  let asked: Server;
  beforeEach(async () => {
    sized();
    asked = server();
    draw(
      <Rendering
        block={block("gone")}
        overview={overview}
        proposalID=""
        changes={noChanges}
        quiet
        sound
      />,
    );
    await (
      await asked.next("GET /reference")
    ).answer({ sets: [], entries: [{ name: "gone", sample: '@{gone title="…" /}' }] });
  });

  it("is that of its sample, on a page of the layout that most pages have", async () => {
    const tried = await asked.next("POST /proposals");
    expect(tried.body).toMatchObject({
      changes: [
        {
          path: "pages/shelf-sample.html",
          before: "",
          text: '---\ntitle: Sample\nlayout: page\n---\n@{gone title="Text" /}\n',
        },
      ],
    });
    await tried.answer({ id: "e9", problems: [], impact: null });
    await load();
    expect(shown()).toBe("http://site.test/_edit/e9/shelf-sample/?shelf-alone=gone");
    expect(offered()).toEqual([""]);
  });

  it("says why there is none where the sample cannot be shown", async () => {
    await (
      await asked.next("POST /proposals")
    ).answer({
      id: "",
      problems: [
        { path: "pages/shelf-sample.html", line: 5, column: 1, message: "gone calls itself" },
      ],
      impact: null,
    });
    await waitFor(() =>
      expect(screen.getByRole("status").textContent).toBe(
        "Its sample cannot be shown: gone calls itself.",
      ),
    );
    expect(shown()).toBeUndefined();
  });

  it("says so where the server has no answer", async () => {
    await (
      await asked.next("POST /proposals")
    ).answer({ title: "x", status: 500, detail: "Nothing was written. Try again." }, 500);
    await waitFor(() =>
      expect(screen.getByRole("status").textContent).toBe(
        "Its sample cannot be shown: Nothing was written. Try again.",
      ),
    );
  });
});
