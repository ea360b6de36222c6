import type { Page } from "@playwright/test";
import { differing, expect, legend, openBlock, rendering, test, type Running } from "./bench";
import { Effort } from "./effort";

// The counts stand in docs/effort.md too.

test("a wrapped form block from nothing, placed on a page: at most 14", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "New block" }));
  await e.fill(page.getByLabel("Title of the new block"), "Ask for a call");
  await e.click(page.getByRole("button", { name: "Make it" }));
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Ask for a call");
  await e.click(page.locator(".cm-line", { hasText: "@{=text}" }));
  await e.press("Control+End");
  await e.type(
    '<form class="ask" action="/call/" method="post">@{=inner}<button>Send</button></form>\n',
  );
  await e.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await e.click(page.getByRole("link", { name: "Pages", exact: true }));
  await e.click(page.getByRole("button", { name: "Add to main" }));
  await e.fill(page.getByLabel("Find a call"), "ask for");
  await e.press("Enter");
  await expect(page.getByRole("button", { name: "Insert it" })).toBeFocused();
  await e.press("Enter");
  await expect(page.getByRole("region", { name: "Region main" })).toContainText("Ask for a call");
  await e.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(14);
});

test("a parameter changed on one placement: 3", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html&tab=source`);
  await expect(page.locator(".cm-content")).toBeVisible();
  const e = new Effort(page);
  await e.click(page.locator(".shelf-word", { hasText: "port-card" }).first());
  await e.fill(
    page.getByRole("region", { name: "Call of Port card" }).getByLabel("Phone", { exact: true }),
    "0900 44 99",
  );
  await expect(page.locator(".cm-content")).toContainText('phone="0900 44 99"');
  await e.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(3);
});

test("knowing how a shortcode is called: 1", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const e = new Effort(page);
  await e.click(page.getByRole("link", { name: "Reference" }));
  await expect(page.getByRole("navigation", { name: "What can be called" })).toContainText(
    '@{port-card name="…" /}',
  );
  expect(e.count).toBeLessThanOrEqual(1);
});

/** Carries out an operation on the draft, so that a job begins with less than the demo has. */
async function without(running: Running, operation: object) {
  const headers = { "X-Brick-Shelf": "1", "content-type": "application/json" };
  const site = `${running.tool}/api/v1/sites/ternholm`;
  const answer = await fetch(`${site}/operations`, {
    method: "POST",
    headers,
    body: JSON.stringify(operation),
  });
  const { change_set } = (await answer.json()) as { change_set: unknown };
  expect(
    (
      await fetch(`${site}/change-sets`, {
        method: "POST",
        headers,
        body: JSON.stringify(change_set),
      })
    ).ok,
  ).toBe(true);
}

test("a second header for all inner pages, the home page keeps its own: 8", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "header");
  const e = new Effort(page);
  await e.click(page.getByRole("tab", { name: "Manage" }));
  await e.fill(page.getByLabel("Name of the duplicate"), "header-inner");
  await expect(page.getByRole("button", { name: "Duplicate" })).toBeEnabled();
  await e.press("Enter");
  await expect(page).toHaveURL(/header-inner/);
  await e.click(page.getByRole("button", { name: "Place by a rule" }));
  await expect(page.getByLabel("Region", { exact: true })).toHaveText("header");
  await e.click(page.getByRole("button", { name: "except the home page" }));
  await expect(legend(page, "own")).toHaveText("62"); // all but home and the freight section, which has a more specific rule
  await e.press("Control+s");
  await expect(
    page
      .getByText("1 page")
      .or(page.getByText(/pages differ from live/))
      .first(),
  ).toBeVisible();
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(8);
});

test("a footer for the home page only: 6", async ({ page, running }) => {
  await without(running, { operation: "delete-rule", name: "home-footer" });
  await openBlock(page, running, "home-footer");
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "Place by a rule" }));
  await e.click(page.getByRole("button", { name: "the home page", exact: true }));
  await expect(legend(page, "own")).toHaveText("1");
  await e.press("Control+s");
  await expect(differing(page, 0)).toBeVisible(); // as it was before
  expect(e.count).toBeLessThanOrEqual(6);
});

test("a group of three blocks on every page of a type, old and new: 9", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "ask-us");
  const e = new Effort(page);
  await e.click(page.getByRole("link", { name: "Put on pages" }));
  for (const block of ["Film button", "Promo box"])
    await e.choose(page.getByLabel("Put a block there"), block);
  await expect(page.getByRole("button", { name: "sidebar", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await e.click(page.getByRole("button", { name: "Choose Page page type" }));
  await e.click(page.getByLabel("New pages of the type Page begin with it too"));
  await expect(page.getByText("53 pages get it.")).toBeVisible();
  await expect(page.getByRole("region", { name: "What happens to each page" })).toContainText(
    "not ask-us, which stands",
  ); // where it is
  await e.click(page.getByRole("button", { name: "Put it there" }));
  await expect(differing(page, 53)).toBeVisible();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(9);
});

test("a notice on every page: 4; narrowed to home: 2", async ({ page, running }) => {
  await without(running, { operation: "delete-rule", name: "notice" });
  await openBlock(page, running, "service-notice");
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "Place by a rule" }));
  await expect(legend(page, "linked")).toHaveText("66");
  await e.press("Control+s");
  await expect(differing(page, 3)).toBeVisible(); // the freight section had none
  expect(e.count).toBeLessThanOrEqual(4);
  const narrowed = new Effort(page);
  await narrowed.click(page.getByRole("button", { name: "the home page", exact: true }));
  await expect(page.getByText("Changes 65 pages.")).toBeVisible();
  await narrowed.press("Control+s");
  await expect(differing(page, 62)).toBeVisible();
  expect(narrowed.count).toBeLessThanOrEqual(2);
});

test("the notice switched off, its colour, message and button: one step each", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/rules/notice`);
  const values = page.locator(".rule-value");
  for (const [field, value] of [
    ["Message", "All boats run."],
    ["Colour", "#dde9e6"],
  ] as const) {
    const e = new Effort(page);
    await e.fill(values.getByLabel(field, { exact: true }), value);
    await expect(page.getByText("Changes 63 pages.")).toBeVisible();
    expect(e.count).toBe(1);
    await page.getByRole("button", { name: "Discard" }).click();
  }
  await page.getByRole("switch", { name: /switched/ }).click();
  await expect(page.getByText("Changes 63 pages.")).toBeVisible();
});

test("a picture on two chosen pages' sidebars: 7", async ({ page, running }) => {
  await openBlock(page, running, "picture");
  const e = new Effort(page);
  await e.click(page.getByRole("link", { name: "Put on pages" }));
  await e.fill(page.getByRole("combobox", { name: "Image" }), "/assets/ship.svg");
  await e.click(page.getByRole("button", { name: "Choose About us /about/" }));
  await e.click(page.getByRole("button", { name: "Choose Contact /contact/" }));
  await expect(page.getByRole("button", { name: "sidebar", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await expect(page.getByText(/Changes 2 pages\. No new errors; \d+ from before\./)).toBeVisible();
  await e.click(page.getByRole("button", { name: "Put it there" }));
  await expect(differing(page, 2)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(7);
});

/** Opens a page by its brick on the wall, where a page is open. */
async function openByBrick(page: Page, e: Effort, path: string) {
  const cursor = page.locator(".brick-cursor");
  await cursor.focus();
  for (let i = 0; i < 70 && (await cursor.getAttribute("data-page")) !== path; i++)
    await page.keyboard.press("ArrowRight");
  await expect(cursor).toHaveAttribute("data-page", path);
  await e.click(cursor);
}

test("a film button on another page: 4", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  await expect(page.getByRole("region", { name: "Region main" })).toBeVisible();
  const e = new Effort(page);
  await openByBrick(page, e, "/contact/");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Contact");
  const main = page.getByRole("region", { name: "Region main" });
  await e.act(() =>
    page.locator(".shelf-row", { hasText: "Film button" }).dragTo(main.getByRole("heading")),
  );
  await expect(main).toContainText("Film button");
  await expect(page.locator(".say")).toContainText("Changes 1 page. No new errors"); // the film is there
  await e.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(4);
});

test("a widget in the corner of all pages, and within the text of one only: 6", async ({
  page,
  running,
}) => {
  await without(running, { operation: "delete-rule", name: "which-boat" });
  await openBlock(page, running, "which-boat");
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "Place by a rule" }));
  await expect(page.getByText("Changes 65 pages.")).toBeVisible(); // one had hidden it
  await e.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/contact.html`);
  e.count++; // the page
  const handle = page.getByRole("button", { name: "Move Which boat?" });
  await handle.scrollIntoViewIfNeeded();
  const main = page.getByRole("region", { name: "Region main" });
  await e.act(async () => {
    const [from, to] = [await handle.boundingBox(), await main.boundingBox()];
    if (!from || !to) throw new Error("nothing to drag");
    await page.mouse.move(from.x + 5, from.y + 5);
    await page.mouse.down();
    await page.mouse.move(from.x + 8, from.y - 12, { steps: 4 });
    await page.mouse.move(to.x + 40, to.y + to.height - 8, { steps: 10 });
    await page.mouse.up();
  });
  const own = main.getByRole("button", { name: /Which boat\?/ }).first();
  await expect(own).toBeVisible();
  await expect(page.getByRole("region", { name: "Region corner" })).toContainText("hidden here");
  await e.click(
    page.getByRole("region", { name: "Call of Which boat?" }).getByLabel("Within the text"),
  );
  await expect(rendering(page).locator("details.within-text")).toHaveCount(1);
  await expect(rendering(page).locator("details.in-corner")).toHaveCount(0);
  await e.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(6);
});
