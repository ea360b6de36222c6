import AxeBuilder from "@axe-core/playwright";
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, legend, rendering, test, typeBefore } from "./bench";
import { Effort } from "./effort";

test("a new site with header, footer and first page is made and published: 5", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm`);
  await page.getByRole("link", { name: "Ternholm Ferries: all sites" }).click();
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: "New site" }));
  await e.fill(page.getByRole("textbox", { name: "Title" }), "Corner Bakery");
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await e.click(page.getByRole("button", { name: "Make it" }));
  await expect(page.getByRole("link", { name: "Corner Bakery: all sites" })).toBeVisible();
  await e.click(page.getByRole("link", { name: "Review" }));
  await e.click(page.getByRole("button", { name: /^Publish/ }));
  await expect(page.getByRole("heading", { name: "Edits since release 1" })).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(8);

  // It is previewed on an origin of its own, beside the site that the plain address shows.
  await page.goto(`${running.tool}/corner-bakery/pages`);
  await expect(rendering(page).getByRole("link", { name: "Corner Bakery" })).toBeVisible();
  await expect(rendering(page).locator("header")).toHaveCSS("display", "flex");
  const port = new URL(running.site).port;
  await page.goto(`http://corner-bakery.localhost:${port}/`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Home");
  await page.goto(running.site);
  await expect(page).toHaveTitle(/Ternholm/);
});

test("a site is exported, brought again under a free name, renamed, deleted and had back", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/?all`);
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Export Ternholm Ferries as a zip" }).click();
  const zip = join(mkdtempSync(join(tmpdir(), "shelf-")), "ternholm.zip");
  await (await download).saveAs(zip);
  await page.getByLabel("The zip to bring").setInputFiles(zip);
  await expect(page).toHaveURL(/\/ternholm-2\//);
  await expect(page.locator(".draft-state")).toContainText("66 pages differ from live");

  await page.goto(`${running.tool}/?all`);
  const row = page.locator(".site-row", { hasText: "ternholm-2" });
  await expect(row).toContainText("66 pages. Nothing is published yet.");
  await row.getByRole("button", { name: "Rename" }).click();
  await page.getByRole("textbox", { name: "Name in addresses" }).fill("ternholm");
  await expect(page.getByText("Another site has this name.")).toBeVisible();
  await page.getByRole("textbox", { name: "Name in addresses" }).fill("second-line");
  await page.getByRole("button", { name: "Rename it" }).click();
  const renamed = page.locator(".site-row", { hasText: "second-line" });
  await renamed.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByRole("button", { name: "Delete it" })).toBeDisabled();
  await page.getByRole("textbox", { name: "Type second-line to delete it" }).fill("second-line");
  await page.getByRole("button", { name: "Delete it" }).click();
  await expect(renamed).toHaveCount(0);
  await page.getByRole("button", { name: "Have second-line back" }).click();
  await expect(renamed).toContainText("66 pages");
});

test("a tab whose site is deleted says so and leads on", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages`);
  await expect(page.locator(".page-outline")).toBeVisible();
  const answer = await page.request.delete(
    `${running.tool}/api/v1/sites/ternholm?confirm=ternholm`,
    { headers: { "X-Brick-Shelf": "e2e" } },
  );
  expect(answer.status()).toBe(204);
  await expect(page.getByText("ternholm: there is no such site")).toBeVisible();
  await page.getByRole("link", { name: "All sites" }).click();
  await expect(page.getByRole("textbox", { name: "Title" })).toBeVisible(); // there is none: one is made
  await expect(page.getByRole("button", { name: "Have ternholm back" })).toBeVisible();
});

test("what is no site is refused with file and line, and nothing is left of it", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/?all`);
  await page.getByLabel("The zip to bring").setInputFiles({
    name: "broken.zip",
    mimeType: "application/zip",
    buffer: Buffer.from("no zip"),
  });
  await expect(page.getByText("this is no zip that can be read")).toBeVisible();
  await page.reload();
  await expect(page.locator(".site-row")).toHaveCount(1);
});

test("a value of the site is found, with the pages that show it, and changed on all of them", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm`);
  await page.getByRole("link", { name: "Site", exact: true }).click();
  await page.getByRole("button", { name: "Where motto stands" }).click();
  await expect(legend(page, "linked")).toHaveText("64");
  await page.getByRole("textbox", { name: "motto" }).fill("Nine routes.");
  await expect(page.locator(".say")).toContainText(/Changes 6\d pages\./);
  await expect(rendering(page).getByText("Nine routes.").first()).toBeVisible();
  await page.getByRole("textbox", { name: "New field" }).fill("Boats in service");
  await page.getByRole("combobox", { name: "Type" }).click();
  await page.getByRole("option", { name: "number" }).click();
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await page.getByRole("textbox", { name: "Boats in service" }).fill("7");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    "boats-in-service: {type: number, label: Boats in service, default: 7}",
  );
  expect((await new AxeBuilder({ page }).exclude("iframe").analyze()).violations).toEqual([]);
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
});

test("a site that has only its site.yaml leads on: a first block, and files", async ({
  page,
  running,
}) => {
  const headers = { "X-Brick-Shelf": "e2e", "Content-Type": "application/json" };
  await page.request.post(`${running.tool}/api/v1/sites`, { headers, data: { title: "Bare" } });
  const files = await page.request.get(`${running.tool}/api/v1/sites/bare/export`);
  expect(files.ok()).toBe(true);
  for (const doc of [
    "rules/header.yaml",
    "rules/footer.yaml",
    "pages/index.html",
    "layouts/page.html",
    "blocks/header.html",
    "blocks/header.css",
    "blocks/footer.html",
    "blocks/footer.css",
  ]) {
    const at = `${running.tool}/api/v1/sites/bare/documents?path=${doc}`;
    const old = await page.request.get(at);
    const gone = await page.request.post(`${running.tool}/api/v1/sites/bare/change-sets`, {
      headers,
      data: {
        title: "Take out",
        changes: [
          { path: doc, before: (old.headers().etag ?? "").replaceAll('"', ""), delete: true },
        ],
      },
    });
    expect(gone.ok(), `${doc} ${await gone.text()}`).toBe(true);
  }
  await page.goto(`${running.tool}/bare`);
  await page.getByRole("button", { name: "Make the first block" }).click();
  await page.getByLabel("Title of the new block").fill("Card");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Card");
});

test("the folder of any web site is brought, without what cannot be, and published byte for byte", async ({
  page,
  running,
}) => {
  const folder = join(mkdtempSync(join(tmpdir(), "old-")), "harbour");
  const latin = Buffer.from("<title>K\xfcste</title><p>user@{host /}<p>no ends", "latin1");
  mkdirSync(join(folder, "css"), { recursive: true });
  writeFileSync(join(folder, "INDEX.HTM"), latin);
  writeFileSync(join(folder, "css/a.css"), "p{color:red}");
  writeFileSync(join(folder, "what?.html"), "no disk has it");
  await page.goto(`${running.tool}/?all`);
  await page.getByLabel("The folder to bring").setInputFiles(folder);
  const asked = page.getByRole("alertdialog", { name: "Bring it without these?" });
  await expect(asked).toContainText("1 file cannot be taken in; nothing was brought");
  await expect(asked.getByRole("listitem")).toContainText("what?.html");
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await asked.getByRole("button", { name: "Bring it without them" }).click();
  await expect(page).toHaveURL(/\/harbour/);
  await expect(page.getByText("1 page and 1 other file came in")).toBeVisible();
  await page.goto(`${running.tool}/harbour/pages`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("K\u00fcste");
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: /^Publish/ }).click();
  await expect(page.getByText("Published as release 1")).toBeVisible();
  const port = new URL(running.site).port;
  const got = await page.goto(`http://harbour.localhost:${port}/INDEX.HTM`);
  expect(await got?.body()).toEqual(latin);
  expect(got?.headers()["content-type"]).toContain("text/html");

  // It is read as one reads it, and written in its own encoding.
  await page.goto(`${running.tool}/harbour/pages?doc=pages/INDEX.HTM&tab=source`);
  await typeBefore(page, "K\u00fcste", "Gro\u00dfe ");
  await page.keyboard.press("Control+s");
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  const draft = await page.request.get(
    `${running.tool}/api/v1/sites/harbour/documents?path=pages/INDEX.HTM`,
  );
  expect((await draft.body()).toString("latin1")).toContain(
    "<title>Gro\u00dfe K\u00fcste</title><p>user@@{",
  );
});
