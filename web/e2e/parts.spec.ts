import AxeBuilder from "@axe-core/playwright";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { expect, test, type Running } from "./bench";
import { Effort } from "./effort";

/** A second site, with some documents. */
async function other(page: Page, running: Running, documents: Record<string, string> = {}) {
  await page.request.post(`${running.tool}/api/v1/sites`, {
    headers: { "X-Brick-Shelf": "test" },
    data: { title: "Harbour Cafe", name: "harbour" },
  });
  for (const [path, text] of Object.entries(documents))
    await put(page, running, "harbour", path, () => text);
}

/** Edits a document of a site, as somebody else would. */
async function put(
  page: Page,
  running: Running,
  site: string,
  path: string,
  edit: (text: string) => string,
) {
  const at = `${running.tool}/api/v1/sites/${site}/documents?path=${path}`;
  const now = await page.request.get(at);
  const saved = await page.request.put(at, {
    headers: {
      "X-Brick-Shelf": "test",
      "Content-Type": "application/octet-stream",
      ...(now.ok() ? { "If-Match": now.headers()["etag"] ?? "" } : { "If-None-Match": "*" }),
    },
    data: edit(now.ok() ? await now.text() : ""),
  });
  expect(saved.ok()).toBe(true);
}

/** The editor of a block, and no comparison that is on its way out. */
const source = (page: Page) => page.getByRole("textbox", { name: /^Source of blocks/ });

const arrival = (page: Page, title: string) =>
  page
    .locator(".arrival")
    .filter({ has: page.locator("b", { hasText: new RegExp(`^${title}$`) }) });

test("a block with its style, behaviour, image and a nested block goes to another site where a name is taken: 5", async ({
  page,
  running,
}) => {
  await other(page, running, { "blocks/film.html": "<i>another film</i>" });
  await put(page, running, "ternholm", "blocks/film-box.html", () => "<p>@{film /}</p>");
  await page.goto(`${running.tool}/ternholm/blocks/film-box`);
  const e = new Effort(page);
  await e.click(page.getByRole("tab", { name: "Manage" }));
  await e.click(page.getByRole("link", { name: "Take it there" }));
  await expect(page.getByText("2 more come along")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await e.click(page.getByRole("link", { name: "Harbour Cafe" }));
  await expect(page.getByText("One name is taken: mine stays unless you decide.")).toBeVisible();
  await e.click(arrival(page, "Film").getByRole("button", { name: "Another name" }));
  await expect(arrival(page, "Film")).toContainText("blocks/film-2.html");
  await expect(page.getByText("No page changes.")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await e.click(page.getByRole("button", { name: "Bring it in" }));
  await expect(page).toHaveURL(/\/harbour\/blocks\/film-box/);
  expect(e.count).toBeLessThanOrEqual(6);

  // What called it follows, and one undo takes all of it back.
  await expect(source(page)).toContainText("@{film-2 /}");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Undone: Bring in a part of ternholm")).toBeVisible();
  const list = await page.request.get(`${running.tool}/api/v1/sites/harbour/units`);
  expect(((await list.json()) as { id: string }[]).map((u) => u.id)).not.toContain(
    "blocks/film-2.html",
  );
});

test("what a library changed is offered, and merged with what was changed here", async ({
  page,
  running,
}) => {
  await other(page, running);
  await page.goto(`${running.tool}/harbour/parts?from=ternholm&of=blocks%2Ftabs.html`);
  await page.getByRole("button", { name: "Bring it in" }).click();
  await expect(page).toHaveURL(/\/harbour\/blocks\/tabs/);
  await expect(page.getByText("From Ternholm Ferries.")).toBeVisible();

  await put(page, running, "harbour", "blocks/tabs.html", (t) => `${t}<p>mine</p>\n`);
  await put(page, running, "ternholm", "blocks/tabs.css", (t) => `${t}/* theirs */\n`);
  await page.goto(`${running.tool}/harbour/parts`);
  await expect(page.getByText("1 was changed there since.")).toBeVisible();
  await page.goto(`${running.tool}/harbour/blocks/tabs`);
  await page.getByRole("link", { name: "compare" }).click();
  const row = arrival(page, "Tabs");
  await expect(row).toContainText("changed there and here");
  await expect(row.getByRole("button", { name: "Merge both" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await row.getByRole("button", { name: "Side by side" }).click();
  await expect(
    page.getByRole("region", { name: "blocks/tabs.css, mine and theirs" }),
  ).toContainText("theirs");
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press("Control+s");
  await expect(page).toHaveURL(/\/harbour\/blocks\/tabs/);
  await expect(page.getByText("From Ternholm Ferries.")).toBeVisible();
  await expect(source(page)).toContainText("<p>mine</p>");

  // Where both have changed the same words, one decides for each place.
  await put(page, running, "harbour", "blocks/tabs.html", (t) => t.replace("<p>mine", "<p>ours"));
  await put(page, running, "ternholm", "blocks/tabs.html", (t) => `${t}<p>theirs</p>\n`);
  await page.goto(`${running.tool}/harbour/parts?from=ternholm&of=blocks%2Ftabs.html`);
  await expect(page.getByText("One name is taken")).toBeVisible();
  await row.getByRole("button", { name: "Merge both" }).click();
  await row.getByRole("radio", { name: /Both, mine first/ }).check();
  await page.getByRole("button", { name: "Bring it in" }).click();
  await expect(page).toHaveURL(/\/harbour\/blocks\/tabs/);
  await expect(source(page)).toContainText("<p>theirs</p>");
  await expect(source(page)).toContainText("<p>ours</p>");
});

test("a part is saved as a zip and handed in elsewhere; one that cannot be is refused", async ({
  page,
  running,
}) => {
  await other(page, running);
  await page.goto(`${running.tool}/ternholm/parts`);
  await page.getByRole("textbox", { name: "Filter what can be chosen" }).fill("fare");
  await page.getByRole("checkbox", { name: /^Fare table/ }).check();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save as a zip" }).click();
  const zip = join(mkdtempSync(join(tmpdir(), "shelf-")), "part.zip");
  await (await download).saveAs(zip);

  await page.goto(`${running.tool}/harbour/parts`);
  await page.getByLabel("The zip of a part").setInputFiles({
    name: "x.zip",
    mimeType: "application/zip",
    buffer: Buffer.from("none"),
  });
  await expect(page.getByText("this is no zip that can be read")).toBeVisible();
  await page.getByLabel("The zip of a part").setInputFiles(zip);
  await expect(page.getByText("A part of Ternholm Ferries.")).toBeVisible();
  await expect(arrival(page, "Fare table")).toContainText("new here");
  await arrival(page, "Fare table").getByRole("button", { name: "Leave it out" }).click();
  await expect(page.getByText("Nothing would come in")).toBeVisible();
  await expect(page.getByRole("button", { name: "Bring it in" })).toBeDisabled();
  await arrival(page, "Fare table").getByRole("button", { name: "Take it" }).click();
  await page.getByRole("button", { name: "Bring it in" }).click();
  await expect(page).toHaveURL(/\/harbour\/blocks\/fare-table/);
});
