import type { Locator, Page } from "@playwright/test";
import { expect, openBlock, test } from "./bench";

test.use({ hasTouch: true });

/** A finger that is put down on something, moved so far, and lifted. */
async function drag(page: Page, on: Locator, x: number, y: number) {
  await on.scrollIntoViewIfNeeded();
  const box = await on.boundingBox();
  if (!box) throw new Error("there is nothing to put a finger on");
  const from = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const touch = await page.context().newCDPSession(page);
  const at = (type: "touchStart" | "touchMove", share: number) =>
    touch.send("Input.dispatchTouchEvent", {
      type,
      touchPoints: [{ x: from.x + x * share, y: from.y + y * share }],
    });
  await at("touchStart", 0);
  for (let i = 1; i <= 8; i++) await at("touchMove", i / 8);
  await touch.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
  await touch.detach();
}

/** What is selected of the page's words. */
const selected = (page: Page) => page.evaluate(() => String(getSelection()));

test("a finger moves the divider, the wall and what is put in order, and selects nothing", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  const divider = page.getByRole("separator", { name: "Divider" });
  const share = async () => Number(await divider.getAttribute("aria-valuenow"));
  const was = await share();
  await drag(page, divider, 120, 0);
  expect(await share()).toBeGreaterThan(was + 5);

  const wall = page.getByRole("region", { name: "The wall" });
  const high = async () => (await wall.boundingBox())?.height ?? 0;
  const low = await high();
  await drag(page, page.getByRole("button", { name: "Height of the wall" }), 0, -220);
  expect(await high()).toBeGreaterThan(low + 150);

  await page.goto(`${running.tool}/ternholm/menus/main`);
  const entries = page.locator(".menu-tree > li");
  const names = () => entries.locator(".name b").allTextContents();
  await expect(entries.nth(2)).toBeVisible();
  const [first, second] = await names();
  const step =
    ((await entries.nth(1).boundingBox())?.y ?? 0) -
    ((await entries.first().boundingBox())?.y ?? 0);
  await drag(page, entries.nth(1).getByRole("button", { name: /^Move / }), 0, -step);
  await expect.poll(async () => (await names()).slice(0, 2)).toEqual([second, first]);
  expect(await selected(page)).toBe("");
  await page.getByRole("button", { name: "Discard" }).tap();

  await page.goto(`${running.tool}/ternholm/rules?region=footer`);
  await drag(page, page.getByRole("button", { name: "Move Main footer" }), 0, -60);
  await expect(page.getByRole("button", { name: "Put them in this order" })).toBeEnabled();
  expect(await selected(page)).toBe("");
});

test("a finger opens a block and looks at a page", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/checks`);
  await page.locator(".shelf-row", { hasText: "Header" }).tap();
  await expect(page.getByRole("heading", { level: 1, name: "Header" })).toBeVisible();
  await page.locator(".courses canvas").tap({ position: { x: 140, y: 20 } });
  await expect(page.getByRole("region", { name: "Before and after" })).toBeVisible();
});
