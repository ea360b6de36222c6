import { test as base, expect, type Locator, type Page } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { createInterface } from "node:readline";

/** The built program serving a fresh copy of the demo site. */
export interface Running {
  tool: string;
  site: string;
}

/** Starts the program with a command, on free ports; ended by killing the child. */
export async function start(flags: string[], command = ["demo"]): Promise<[ChildProcess, Running]> {
  const child = spawn(
    "../bin/brickshelf",
    [...command, "--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0", ...flags],
    { stdio: ["ignore", "pipe", "inherit"] },
  );
  const found: string[] = [];
  for await (const line of createInterface({ input: child.stdout })) {
    const url = /http:\/\/\S+/.exec(line)?.[0];
    if (url) found.push(url);
    if (found.length === 2) break;
  }
  const [tool = "", site = ""] = found;
  return [child, { tool, site }];
}

/** A test with a program of its own. */
export const test = base.extend<{ running: Running; flags: string[]; toured: boolean }>({
  flags: [[], { option: true }],
  /** Whether the tour of the first time was left before. */
  toured: [true, { option: true }],
  context: async ({ context, toured }, use) => {
    if (toured)
      await context.addInitScript(() => {
        // A frame in a sandbox has no storage.
        if (window === window.top) localStorage.setItem("tour", "left");
      });
    await use(context);
  },
  running: async ({ flags }, use) => {
    const [child, running] = await start(flags);
    await use(running);
    const ended = new Promise((done) => child.once("exit", done));
    child.kill("SIGTERM");
    await ended;
  },
});

export { expect };

/** Opens a block and waits until it can be edited. */
export async function openBlock(page: Page, running: Running, block: string) {
  await page.goto(`${running.tool}/ternholm/blocks/${block}`);
  await expect(page.locator(".cm-content")).toBeVisible();
}

/** The page that the place shows beside what is edited, once it listens. */
export const rendering = (page: Page) => page.frameLocator('iframe.front[aria-busy="false"]');

/** The state of the draft, where so many pages differ from the published site. */
export const differing = (page: Page, pages: number) =>
  page.locator(".draft-state", { hasText: new RegExp(`[^0-9]${pages} pages? differs? from live`) });

/** Types text at the beginning of what stands in the first line that holds it. */
export async function typeBefore(page: Page, words: string, text: string) {
  const find = () =>
    page
      .locator(".cm-line", { hasText: words })
      .first()
      .evaluate((line, words) => {
        const walker = document.createTreeWalker(line, NodeFilter.SHOW_TEXT);
        let i = line.textContent.indexOf(words);
        for (let node = walker.nextNode(); node; node = walker.nextNode()) {
          const length = node.textContent?.length ?? 0;
          if (i >= length) {
            i -= length;
            continue;
          }
          line.scrollIntoView({ block: "center" });
          const range = document.createRange();
          range.setStart(node, i);
          range.setEnd(node, i);
          const box = range.getBoundingClientRect();
          return { x: box.x, y: box.y + box.height / 2 };
        }
        throw new Error(`no line holds ${words}`);
      }, words);
  const at = await find().catch(find); // the editor may draw its lines anew meanwhile
  await page.mouse.click(at.x, at.y);
  await page.keyboard.type(text);
}

/** Presses a key that moves what is lifted, until that is said to be over another place. What
 *  is lifted listens to keys a moment after it says that it is lifted. */
export async function moveLifted(page: Page, key: string, place: number) {
  await expect(async () => {
    await page.keyboard.press(key);
    await expect(page.locator("[id^=DndLiveRegion]")).toContainText(`would be ${place} of`, {
      timeout: 3000,
    });
  }).toPass();
}

/** The count that the wall's legend gives a state. */
export function legend(page: Page, state: string) {
  return page.locator(`.legend [data-state="${state}"] b`);
}

/** The text of a page of the published site. */
export async function published(running: Running, path: string): Promise<string> {
  return (await fetch(running.site + path)).text();
}

/** Changes words of a document of the demo, as somebody else's save would. */
export async function saveElsewhere(
  page: Page,
  running: Running,
  path: string,
  was: string,
  is: string,
) {
  const at = `${running.tool}/api/v1/sites/ternholm/documents?path=${path}`;
  const old = await page.request.get(at);
  const text = await old.text();
  expect(text).toContain(was);
  const saved = await page.request.put(at, {
    headers: { "X-Brick-Shelf": "e2e", "If-Match": old.headers().etag ?? "" },
    data: Buffer.from(text.replace(was, is)),
  });
  expect(saved.ok()).toBe(true);
}

/** Opens a list of choices, and takes the one of these words. */
export async function choose(at: Locator, words: string) {
  await at.click();
  await at.page().getByRole("option", { name: words, exact: true }).click();
}

/** Types a day, as 2027-05-01, into a date with a label. */
export async function fillDay(page: Page, label: string, day: string) {
  await page
    .getByRole("group", { name: label, exact: true })
    .getByRole("spinbutton")
    .first()
    .click();
  await page.keyboard.type(day.replaceAll("-", ""));
}
