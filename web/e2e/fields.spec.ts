import { choose, expect, openBlock, rendering, test, type Running } from "./bench";
import type { Page } from "@playwright/test";

/** Puts a document of the demo's, as somebody else's save would. */
async function put(page: Page, running: Running, path: string, text: string) {
  const saved = await page.request.put(
    `${running.tool}/api/v1/sites/ternholm/documents?path=${path}`,
    {
      headers: { "X-Brick-Shelf": "e2e", "If-None-Match": "*" },
      data: Buffer.from(text),
    },
  );
  expect(saved.ok(), await saved.text()).toBe(true);
}

test("a selection, and an element that is pointed at, are taken into a call", async ({
  page,
  running,
}) => {
  await put(
    page,
    running,
    "pages/tips.html",
    "---\ntitle: Tips\n---\n<p>Bring a coat.</p>\n<p>Écoute&nbsp;!</p>\n",
  );
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/tips.html&tab=source`);
  await page.locator(".cm-line", { hasText: "coat" }).click();
  await page.keyboard.press("Home");
  await page.keyboard.press("Shift+End");
  await page.getByRole("button", { name: "Insert a call" }).click();
  await page.getByLabel("Find a call").fill("callout");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("It encloses the selection")).toHaveValue("<p>Bring a coat.</p>");
  await page.getByRole("button", { name: "Insert it" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    "@{callout}<p>Bring a coat.</p>@{/callout}",
  );
  await page.keyboard.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();

  await expect(rendering(page).locator(".callout", { hasText: "coat" })).toBeVisible();
  await rendering(page).locator("p", { hasText: "Écoute" }).dispatchEvent("click");
  await page.getByRole("button", { name: "Put it into a call" }).click();
  await expect(page.getByRole("button", { name: /^Crumbs/ })).toHaveCount(0); // it encloses nothing
  await page.getByLabel("Find a call").fill("callout");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Insert it" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    "@{callout}<p>Écoute&nbsp;!</p>@{/callout}",
  );
  await expect(page.locator(".say")).toContainText("Changes 1 page.");
});

test("what is required is marked, and its sample can be taken", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html&tab=source`);
  await page.locator(".shelf-word", { hasText: "port-card" }).first().click();
  const form = page.getByRole("region", { name: "Call of Port card" });
  const name = form.getByRole("textbox", { name: "Name" });
  await expect(name).toHaveAttribute("required");
  await expect(form.getByRole("textbox", { name: "Address" })).not.toHaveAttribute("required");
  await name.fill("");
  await form.getByRole("button", { name: "Sample for Name: Aldwick" }).click();
  await expect(name).toHaveValue("Aldwick");
  await expect(page.locator(".cm-content")).toContainText('name="Aldwick"');
});

test("a rich text is typed as it reads, and a day is chosen", async ({ page, running }) => {
  await put(
    page,
    running,
    "blocks/event.html",
    "---\ntitle: Event\nfields: {words: {type: rich, label: Words, default: 'Come <strong>early</strong>.'}, day: {type: date, label: Day, default: 2026-03-01}}\n---\n" +
      '<p class="event">@{=words} <time>@{=day}</time></p>\n',
  );
  await put(page, running, "pages/event.html", "---\ntitle: Event\n---\n@{event /}\n");
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/event.html&tab=source`);
  await page.locator(".shelf-word", { hasText: "event" }).first().click();
  const form = page.getByRole("region", { name: "Call of Event" });
  const words = form.getByRole("textbox", { name: "Words" });
  await words.click();
  await page.keyboard.type("Bring ");
  await page.keyboard.press("Control+b");
  await page.keyboard.type("all");
  await expect(page.locator(".cm-content")).toContainText('words="Bring <strong>all</strong>"');
  await form.getByRole("button", { name: /^Choose date/ }).click();
  await page.getByRole("gridcell", { name: "17", exact: true }).click();
  await expect(page.locator(".cm-content")).toContainText(/day="\d{4}-\d\d-17"/);
  await expect(rendering(page).locator(".event")).toHaveText(/Bring all \d{4}-\d\d-17/);
});

test("a block is held focused, pressed and opened", async ({ page, running }) => {
  await put(
    page,
    running,
    "blocks/knob.html",
    "---\ntitle: Knob\nsample: '@{knob /}'\n---\n<details><summary>Knob</summary>in</details>\n",
  );
  await put(
    page,
    running,
    "blocks/knob.css",
    "summary { opacity: 1 }\nsummary:focus { opacity: .75 }\n@media (min-width: 1px) { summary:active { opacity: .5 } }\n",
  );
  await openBlock(page, running, "knob");
  await choose(page.getByLabel("Page of the rendering"), "by itself");
  const knob = rendering(page).locator("summary", { hasText: "Knob" });
  const state = page.getByLabel("State it is held in");
  for (const [held, opacity] of [
    ["Focused", "0.75"],
    ["Pressed", "0.5"],
    ["At rest", "1"],
  ] as const) {
    await choose(state, held);
    await expect(knob).toHaveCSS("opacity", opacity);
  }
  await choose(state, "Opened");
  await expect(rendering(page).locator("details", { has: knob })).toHaveAttribute("open");
});
