import { expect, openBlock, test } from "./bench";
import { Effort } from "./effort";

// The counts stand in docs/effort.md too.

test("a wrapped form block from nothing, placed on a page: at most 14", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "New block" }));
  await e.fill(page.getByLabel("Title of the new block"), "Ask for a call");
  await e.click(page.getByRole("button", { name: "Make it" }));
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Ask for a call");
  await e.click(page.locator(".cm-line", { hasText: "@{=text}" }));
  await e.press("Control+End");
  await e.type('<form class="ask" action="/call/" method="post">@{=inner}<button>Send</button></form>\n');
  await e.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await e.click(page.getByRole("link", { name: "Pages", exact: true }));
  await e.click(page.locator(".cm-line", { hasText: "</section>" }));
  await e.click(page.getByRole("button", { name: "Insert a call" }));
  await e.fill(page.getByLabel("Find a call"), "ask for");
  await e.press("Enter");
  await expect(page.getByRole("button", { name: "Insert it" })).toBeFocused();
  await e.press("Enter");
  await expect(page.locator(".cm-content")).toContainText("@{ask-for-a-call}");
  await e.press("Control+s");
  await expect(page.getByText("1 page differs from live")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(14);
});

test("a parameter changed on one placement: 3", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  await expect(page.locator(".cm-content")).toBeVisible();
  const e = new Effort(page);
  await e.click(page.locator(".shelf-word", { hasText: "port-card" }).first());
  await e.fill(page.getByRole("region", { name: "Call of Port card" }).getByLabel("Phone", { exact: true }), "0900 44 99");
  await expect(page.locator(".cm-content")).toContainText('phone="0900 44 99"');
  await e.press("Control+s");
  await expect(page.getByText("1 page differs from live")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(3);
});

test("knowing how a shortcode is called: 1", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const e = new Effort(page);
  await e.click(page.getByRole("link", { name: "Reference" }));
  await expect(page.getByRole("navigation", { name: "What can be called" })).toContainText('@{port-card name="…" /}');
  expect(e.count).toBeLessThanOrEqual(1);
});
