import { differing, expect, openBlock, test } from "./bench";
import type { Page } from "@playwright/test";

/** Counts each key that is pressed, letters too. */
class Keys {
  count = 0;
  constructor(private page: Page) {}

  async press(...keys: string[]) {
    for (const k of keys) {
      this.count++;
      await this.page.keyboard.press(k);
    }
  }

  async type(text: string) {
    this.count += text.length;
    await this.page.keyboard.type(text);
  }

  /** Finds something by typing, and goes there. */
  async find(text: string, title: RegExp) {
    await this.press("Control+k");
    await this.type(text);
    await expect(this.page.getByRole("option").first()).toContainText(title);
    await this.press("Enter");
  }
}

test("by keys alone: a block is found, edited and saved: 20", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages`);
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  const keys = new Keys(page);
  await keys.find("foot", /^Footer/);
  await expect(page.locator(".cm-content")).toBeFocused();
  await keys.press("Control+End");
  await keys.type("Hello");
  await expect(page.getByText(/^Changes 64 pages/)).toBeVisible();
  await keys.press("Control+s");
  await expect(differing(page, 64)).toBeVisible();
  expect(keys.count).toBeLessThanOrEqual(20);
});

test("by keys alone: a placement is detached and linked again: 15; what was done last is taken back: 1", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  const keys = new Keys(page);
  await keys.find("footer pl", /^Footer: Placements/);
  const first = page.locator("tr[data-page]").first();
  await expect(first.getByRole("checkbox")).toBeFocused();
  const row = page.locator(`tr[data-page="${(await first.getAttribute("data-page")) ?? ""}"]`);
  await keys.press("d", "Enter");
  await expect(row).toContainText("one-off copy");
  await expect(row.getByRole("checkbox"), "the focus is where it was").toBeFocused();
  await keys.press("l", "Enter");
  await expect(row).not.toContainText("one-off copy");
  expect(keys.count).toBeLessThanOrEqual(15);
  await keys.press("Control+z");
  await expect(row).toContainText("one-off copy");
});

test("by keys alone: one value on four pages: 20", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const keys = new Keys(page);
  await keys.find("card v", /^Port card: Values/);
  await expect(page.locator('[role="gridcell"][tabindex="0"]')).toBeFocused();
  await keys.press("Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowDown");
  await keys.type("Pier");
  await keys.press("Enter");
  await expect(page.getByRole("gridcell", { name: "Pier of its own" })).toHaveCount(4);
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeEnabled();
  await keys.press("Control+s");
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  expect(keys.count).toBeLessThanOrEqual(20);
});

test("by keys alone: a rule for a branch: 25", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const keys = new Keys(page);
  await keys.find("banner new", /^Winter banner: New rule/);
  await expect(page.getByRole("searchbox", { name: "Find in What the rule names" })).toBeFocused();
  await keys.type("/ports");
  await expect(page.locator(".rows-list li").first()).toContainText("All under /ports/");
  await keys.press("Enter");
  await expect(page.getByText(/Takes 13 pages/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Save it, switched on" })).toBeEnabled();
  await keys.press("Control+s");
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  expect(keys.count).toBeLessThanOrEqual(25);
});

test("every list has the same keys: arrows lead through it, and on a handle they move", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await page.locator(".shelf-row", { hasText: /^Footer/ }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.locator(".shelf-row", { hasText: /^Header/ })).toBeFocused();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html&tab=pages`);
  const pages = page.getByRole("region", { name: "All pages" });
  await pages.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await expect(pages.getByRole("link", { name: "About us" })).toBeFocused();
  await page.keyboard.press("End");
  await page.keyboard.press("Home");
  await expect(pages.getByRole("link").first()).toBeFocused();

  await page.goto(`${running.tool}/ternholm/pages?doc=pages/jobs.html`);
  const handles = page
    .getByRole("region", { name: "Region main" })
    .getByRole("button", { name: /^Move / });
  await expect(handles.nth(1)).toBeVisible();
  const second = (await handles.nth(1).getAttribute("aria-label")) ?? "";
  await handles.nth(1).focus();
  await page.keyboard.press("ArrowUp");
  await expect(handles.first()).toHaveAttribute("aria-label", second);
  await expect(handles.first()).toBeFocused();
});

test("by keys alone: a menu's entry goes into another: 15", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const keys = new Keys(page);
  await keys.find("fares m", /^Fares.*menu$/);
  const handles = page.getByRole("button", { name: /^Move / });
  await expect(handles.first()).toBeFocused();
  await keys.press("Tab", "Tab", "ArrowRight");
  await expect(page.getByText(/is 1 of 1 under /)).toBeAttached();
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeEnabled();
  await keys.press("Control+s");
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  expect(keys.count).toBeLessThanOrEqual(15);
});

test("by keys alone: three pages are reviewed and published: 20", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("Hello");
  await expect(page.getByText(/^Changes 64 pages/)).toBeVisible();
  await page.keyboard.press("Control+s");
  await expect(differing(page, 64)).toBeVisible();
  const keys = new Keys(page);
  await keys.find("review", /^Review/);
  await expect(page.getByRole("button", { name: "Publish" })).toBeFocused();
  const peek = page.getByRole("region", { name: "Before and after" });
  for (let i = 0; i < 3; i++) {
    await keys.press("]");
    await expect(peek.getByRole("heading")).toBeVisible();
  }
  await keys.press("Escape");
  await expect(page.getByRole("button", { name: "Publish" })).toBeFocused();
  await keys.press("Enter");
  await expect(differing(page, 0)).toBeVisible();
  expect(keys.count).toBeLessThanOrEqual(20);
});
