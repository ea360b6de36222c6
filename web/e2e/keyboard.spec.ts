import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, legend, openBlock, test, typeBefore } from "./bench";

test("the wall by keyboard", async ({ page, running }) => {
  await openBlock(page, running, "port-card");
  await expect(legend(page, "copy")).toHaveText("4");
  await page.getByRole("heading", { name: "Port card", level: 1 }).click();
  await page.keyboard.press("w");
  const brick = page.locator(".brick-cursor");
  await expect(brick).toBeFocused();
  await expect(brick).toHaveAccessibleName(/Ternholm Ferries, \/, own values, page 1 of 66/);
  await page.keyboard.press("ArrowDown");
  await expect(brick).not.toHaveAttribute("data-page", "/");
  await page.keyboard.press("Home");
  await page.keyboard.press("Enter");
  const peek = page.getByRole("region", { name: "Before and after" });
  await expect(peek.getByRole("heading")).toHaveText("Ternholm Ferries");
  await expect(page).toHaveURL(/peek=/);
  await page.keyboard.press("Escape");
  await expect(peek).toHaveCount(0);

  await legend(page, "copy").click();
  await brick.focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowRight");
  await expect(brick, "a filter is followed by the arrow keys").toHaveAttribute(
    "data-state",
    "copy",
  );

  await page.getByRole("button", { name: "Show as a list" }).click();
  await expect(page.getByRole("region", { name: "Pages" }).getByRole("listitem")).toHaveCount(4);
});

test("pages before and after are leafed through as fast as one types", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "Our ");
  await page.getByRole("button", { name: "Look at them" }).click();
  const peek = page.getByRole("region", { name: "Before and after" });
  await expect(peek.getByText("2 of 66 in question")).toBeVisible();
  const shown = () =>
    peek
      .locator("iframe.front")
      .evaluateAll((all) =>
        all.map((f) => f.getAttribute("src")?.replace(/^.*?\/_(draft|edit\/[^/]+)/, "")),
      );
  const there = async () => {
    const frames = await peek.locator("iframe.front").elementHandles();
    return Promise.all(
      frames.map(async (f) => (await f.contentFrame())?.url() === (await f.getAttribute("src"))),
    );
  };
  const paths = ["/about/", "/contact/", "/history/", "/jobs/"];
  for (let round = 0; round < 4; round++) {
    for (let i = 0; i < 6; i++) await page.keyboard.press("]");
    await expect(peek.getByText("8 of 66 in question"), "no key is lost").toBeVisible();
    const path = await peek.locator("code").first().innerText();
    expect(paths).not.toContain(path);
    await expect.poll(shown).toEqual([path, path]);
    await expect.poll(there, "each frame shows the page that it is to show").toEqual([true, true]);
    for (let i = 0; i < 6; i++) await page.keyboard.press("[");
    await expect(peek.getByText("2 of 66 in question")).toBeVisible();
  }
  await page.goBack();
  await expect(peek, "leafing is one step of the way here").toHaveCount(0);
});

test("the rendering is one stop, which a key goes into and comes back from", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  const live = page.getByRole("group", { name: /^Footer on / });
  await expect(live.locator("iframe.front")).toHaveAttribute("aria-busy", "false");
  const focused = () => page.evaluate(() => document.activeElement?.localName);
  await live.focus();
  await page.keyboard.press("Tab");
  await expect(live).not.toBeFocused();
  expect(await focused(), "no link of the page is a stop").not.toBe("iframe");
  await page.keyboard.press("Shift+Tab");
  await expect(live).toBeFocused();
  const edge = await live.evaluate((e) => getComputedStyle(e, "::after").borderTopStyle);
  expect(edge, "the focus is seen over the page").toBe("solid");
  await page.keyboard.press("Enter");
  expect(await focused()).toBe("iframe");
  await page.keyboard.press("Tab");
  expect(await focused(), "its links are stops within").toBe("iframe");
  await page.keyboard.press("Escape");
  await expect(live).toBeFocused();
});

test("both sides of a comparison show the same part of a wide page", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "Our ");
  await page.getByRole("button", { name: "Look at them" }).click();
  const peek = page.getByRole("region", { name: "Before and after" });
  await peek.getByRole("button", { name: "200 %" }).click();
  const sides = peek.locator(".live.wide");
  await expect(sides).toHaveCount(2);
  await expect
    .poll(async () => {
      await sides.last().evaluate((e) => (e.scrollLeft = 77)); // pages that are still to come scroll themselves
      return sides.first().evaluate((e) => e.scrollLeft);
    })
    .toBe(77);
});

test("find anything", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox", { name: "Find anything" }).fill("gull page");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/Gull Rock/);
});

/** What can be used and cannot be seen, since it lies beside the window or is cut off by
 *  what it stands in, and nothing there can be scrolled. */
const outside = (page: Page) =>
  page.evaluate(() =>
    Array.from(document.querySelectorAll<HTMLElement>("a, button, input, select, [role=tab]"))
      .filter((e) => {
        const at = e.getBoundingClientRect();
        if (
          at.width < 2 ||
          getComputedStyle(e).visibility === "hidden" ||
          e.closest("[aria-hidden], .cm-editor, canvas")
        )
          return false;
        let right = innerWidth;
        for (let box = e.parentElement; box; box = box.parentElement) {
          const { overflowX } = getComputedStyle(box);
          if (overflowX === "auto" || overflowX === "scroll") return false;
          if (overflowX === "hidden" || overflowX === "clip")
            right = Math.min(right, box.getBoundingClientRect().right);
        }
        return at.right > right + 1;
      })
      .map((e) => e.textContent || e.getAttribute("aria-label") || e.outerHTML),
  );

for (const scheme of ["light", "dark"] as const) {
  test(`axe finds nothing serious (${scheme})`, async ({ page, running }) => {
    test.slow(); // reading every view takes most of a minute where the machine is busy
    await page.emulateMedia({ colorScheme: scheme });
    const look = async (where: string) => {
      const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ iframes: false }); // the frames hold the site's own pages
      const found = await (scheme === "dark" ? axe.withRules(["color-contrast"]) : axe).analyze(); // only colours differ
      const serious = found.violations.filter(
        (v) => v.impact === "serious" || v.impact === "critical",
      );
      expect(await outside(page), `${where}: what lies beyond the window`).toEqual([]);
      expect(
        serious.map(
          (v) => `${where}: ${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`,
        ),
      ).toEqual([]);
    };
    await openBlock(page, running, "footer");
    await look("block");
    await typeBefore(page, "Ticket desk", "Our ");
    await expect(legend(page, "change")).toHaveText("64");
    await look("block while typing");
    await page.getByRole("button", { name: "Look at them" }).click();
    await expect(page.frameLocator('iframe[title^="After"]').locator("body")).toBeVisible();
    await look("peek");
    await page.keyboard.press("Escape");
    await page.getByRole("tab", { name: /Fields/ }).click();
    await expect(page.getByLabel("Motto")).toBeVisible();
    await look("fields");
    await page.getByRole("tab", { name: /Placements/ }).click();
    await expect(page.getByRole("table")).toBeVisible();
    await look("placements");
    await page.getByRole("tab", { name: "Manage" }).click();
    await page.getByLabel("New name", { exact: true }).fill("base");
    await page.getByRole("button", { name: "New block" }).click();
    await look("manage and new block");
    await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html&tab=source`);
    await page.locator(".shelf-word", { hasText: "port-card" }).first().click();
    await expect(page.getByRole("region", { name: "Call of Port card" })).toBeVisible();
    await page.mouse.move(640, 60);
    await page.getByRole("button", { name: "Insert a call" }).click();
    await look("form of a call");
    await openBlock(page, running, "service-notice");
    await page.getByRole("tab", { name: /Fields/ }).click();
    await look("fields of every type");
    for (const place of [
      "review",
      "checks",
      "reference",
      "pages",
      "pages?tab=settings",
      "pages?tab=pages",
      "blocks/port-card?tab=values",
      "rules",
      "rules/main-header",
      "roll-out?block=picture",
      "layouts",
      "layouts/port?tab=fields",
      "layouts/port?tab=begins",
      "menus",
    ]) {
      await page.goto(`${running.tool}/ternholm/${place}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await look(place);
    }
    await page.getByRole("heading", { level: 1 }).click();
    await page.keyboard.press("?");
    await expect(page.getByRole("dialog", { name: "Keyboard" })).toBeVisible();
    await look("keyboard sheet");
    await page.goto(`${running.tool}/ternholm/pages?doc=pages/contact.html`);
    await page
      .locator(".page-outline")
      .getByRole("button", { name: /^Footer placed/ })
      .click();
    await page.getByRole("button", { name: "Use Phone elsewhere" }).click();
    await expect(
      page.getByRole("group", { name: "Where to keep Phone" }).getByRole("status").first(),
    ).toContainText("No page changes");
    await look("moving a value");
  });
}
