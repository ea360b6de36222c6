import AxeBuilder from "@axe-core/playwright";
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { choose, expect, legend, rendering, test, typeBefore, type Running } from "./bench";
import { Effort } from "./effort";

/** A folder of fifteen pages with one footer, as it was pasted: spelled in two ways, signed by three. */
function pasted(): { folder: string; pages: Map<string, string> } {
  const folder = join(mkdtempSync(join(tmpdir(), "old-")), "mill");
  mkdirSync(join(folder, "yard"), { recursive: true });
  const pages = new Map<string, string>();
  for (let i = 0; i < 15; i++) {
    const deep = i % 3 === 0;
    const text = `<html><head><title>Page ${i} &amp; more</title></head><body>
<h1>Page ${i}</h1><p>${String.fromCharCode(97 + i).repeat(40)}</p>
<div id="footer"><img src="${deep ? "../" : ""}mill.png" alt="The mill"><p>Kept by <b>${["Ida", "Ole &ndash; Per", "Ann's"][i % 3]}</b>
at the mill house, at the end of the long pond.</p></div></body></html>`;
    pages.set(`${deep ? "yard/" : ""}p${i}.html`, text);
  }
  for (const [path, text] of pages) writeFileSync(join(folder, path), text);
  return { folder, pages };
}

async function bring(page: Page, running: Running, folder: string) {
  await page.goto(`${running.tool}/?all`);
  await page.getByLabel("The folder to bring").setInputFiles(folder);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Repeated pieces");
}

test("fifteen pasted footers become one block: 3, and no byte of any page changes", async ({
  page,
  running,
}) => {
  const { folder, pages } = pasted();
  await bring(page, running, folder);
  const e = new Effort(page);
  await e.click(page.getByRole("button", { name: /^Footer .*15 pages/ }).first());
  await expect(legend(page, "linked")).toHaveText("15");
  const values = page.getByRole("region", { name: "Values of the places" });
  await expect(values.getByRole("row").filter({ hasText: "Page 1 & more" })).toContainText(
    "Ole &ndash; Per",
  );
  await e.fill(page.getByLabel("Title of the block"), "Mill footer");
  await expect(page.getByText("15 places call the new block. No page changes.")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await e.click(page.getByRole("button", { name: "Make it a block" }));
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  expect(e.count).toBeLessThanOrEqual(6);

  // It is on the shelf, and one edit of it reaches all pages.
  await page
    .getByRole("link", { name: /Mill footer/ })
    .first()
    .click();
  await expect(page.locator(".cm-content")).toBeVisible();
  await typeBefore(page, "Kept by", "Well ");
  await expect(legend(page, "change")).toHaveText("15");
  await expect(rendering(page).getByText("Well Kept by")).toBeVisible();
  await page.reload(); // what is typed and not saved stays here

  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: /^Publish/ }).click();
  await expect(page.getByText("Published as release 1")).toBeVisible();
  const port = new URL(running.site).port;
  for (const path of ["p1.html", "yard/p3.html", "p11.html"]) {
    const got = await page.goto(`http://mill.localhost:${port}/${path}`);
    expect(await got?.text()).toBe(pages.get(path));
  }
});

test("fields are dropped and get other types before the block is made", async ({
  page,
  running,
}) => {
  const { folder } = pasted();
  await bring(page, running, folder);
  await page
    .getByRole("button", { name: /^Footer .*15 pages/ })
    .first()
    .click();
  const values = page.getByRole("region", { name: "Values of the places" });
  await choose(values.getByRole("combobox", { name: /^Type of the field/ }), "lines");
  await page.getByRole("tab", { name: "Markup" }).click();
  const markup = page.getByLabel("Markup of the block");
  await expect(markup).toContainText("type: lines");
  await page.getByRole("tab", { name: "Values" }).click();
  await values.getByRole("button", { name: /^Drop the field/ }).click();
  await expect(
    page.getByText("5 places call the new block, 10 keep their own markup. No page changes."),
  ).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByRole("tab", { name: "Markup" }).click();
  await expect(markup).toContainText("<b>Ole &ndash; Per</b>");
  await expect(markup).not.toContainText("fields:");
  await page.getByRole("tab", { name: "Values" }).click();
  await values.getByRole("button", { name: /a field again$/ }).click();
  await expect(page.getByText("15 places call the new block. No page changes.")).toBeVisible();
});

test("the frame of pages becomes a layout, and the pages are content only", async ({
  page,
  running,
}) => {
  const folder = join(mkdtempSync(join(tmpdir(), "old-")), "book");
  mkdirSync(folder);
  for (let i = 0; i < 5; i++)
    writeFileSync(
      join(folder, `p${i}.html`),
      `<!doctype html><html><head><title>Chapter ${i}</title></head><body><div class="head">The handbook of the mill at the pond</div>
${`<p>${String.fromCharCode(97 + i).repeat(60)}</p>`.repeat(20 + i)}<div class="foot">Kept by the keepers of the mill house at the pond</div></body></html>`,
    );
  await bring(page, running, folder);
  const pieces = page.getByRole("region", { name: "Pieces" });
  await pieces
    .getByRole("checkbox", { name: /^Choose Head/ })
    .first()
    .check();
  await expect(page.getByRole("checkbox", { name: "As a layout" })).toHaveCount(0);
  await pieces
    .getByRole("checkbox", { name: /^Choose Foot/ })
    .first()
    .check();
  await page.getByRole("checkbox", { name: "As a layout" }).check();
  await expect(
    page.getByText("5 pages become content within a layout. No page changes."),
  ).toBeVisible();
  await page.getByRole("button", { name: "Make a layout" }).click();
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  await page.goto(`${running.tool}/book/pages?doc=pages/p3.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText("layout: head-page");
  await expect(page.locator(".cm-content")).not.toContainText("handbook");
  await expect(rendering(page).getByText("The handbook of the mill at the pond")).toBeVisible();
});

test("a page is left out of a piece, a field is called otherwise, and undo takes it back", async ({
  page,
  running,
}) => {
  const { folder } = pasted();
  await bring(page, running, folder);
  await page
    .getByRole("button", { name: /^Footer .*15 pages/ })
    .first()
    .click();
  await page.getByRole("checkbox", { name: "Take it on Page 1 & more" }).uncheck();
  await page.getByLabel("Name of the field kept-by").fill("keeper");
  await expect(
    page.getByText(/14 places call the new block, 1 keeps its own markup/),
  ).toBeVisible();
  await page.getByLabel("Name of the field kept-by").fill("Not a name");
  await expect(page.getByText(/cannot name a field/)).toBeVisible();
  await page.getByLabel("Name of the field kept-by").fill("keeper");
  await page.getByRole("tab", { name: "Markup" }).click();
  await expect(page.getByLabel("Markup of the block")).toContainText("@{=page.to-top}mill.png");
  await page.getByRole("tab", { name: "On a page" }).click();
  await expect(rendering(page).locator("#footer[data-shelf-lit]")).toBeVisible();
  await page.getByRole("button", { name: "Make it a block" }).click();
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");
  await page.goto(`${running.tool}/mill/pages?doc=pages/p1.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText('<div id="footer">');
  await page.goto(`${running.tool}/mill/pages?doc=pages/p2.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText("@{footer keeper=");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".cm-content")).toContainText('<div id="footer">');
});

test("rows that repeat become a list, and what is not edited stays as it is spelled", async ({
  page,
  running,
}) => {
  const folder = join(mkdtempSync(join(tmpdir(), "old-")), "ways");
  mkdirSync(folder);
  const row = (label: string) => `\n<li><a href="${label.length}.html">${label}</a></li>`;
  const of = [["Gate&nbsp;1", "The yard"], ["The pond"], ["Mill's lane", "Barn", "Loft"], ["Well"]];
  const text = (i: number, rows: string[]) => `<h1>Page ${i}</h1>
<div class="ways"><h2>Ways from the mill house to all that is around it</h2><ul>${rows.map(row).join("")}
</ul></div><p>${String.fromCharCode(97 + i).repeat(60)}</p>`;
  for (const [i, rows] of of.entries()) writeFileSync(join(folder, `p${i}.html`), text(i, rows));
  await bring(page, running, folder);
  await page
    .getByRole("button", { name: /^Ways .*4 pages/ })
    .first()
    .click();
  const values = page.getByRole("region", { name: "Values of the places" });
  await expect(values).toContainText("list of address, label");
  await expect(values).toContainText("Mill's lane · Barn · Loft");
  await expect(page.getByText("4 places call the new block. No page changes.")).toBeVisible();
  await page.getByRole("button", { name: "Make it a block" }).click();
  await expect(page.locator(".draft-state b")).toHaveText("1 edit");

  await page.goto(`${running.tool}/ways/pages?doc=pages/p0.html`);
  await page.getByRole("button", { name: /^Ways/ }).click();
  const call = page.getByRole("region", { name: "Call of Ways" });
  await call.getByRole("textbox", { name: "Label" }).last().fill("The old yard");
  await expect(legend(page, "change")).toHaveText("1");
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.locator(".draft-state b")).toHaveText("2 edits");
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: /^Publish/ }).click();
  await expect(page.getByText("Published as release 1")).toBeVisible();
  const port = new URL(running.site).port;
  for (const [i, rows] of of.entries()) {
    const got = await page.goto(`http://ways.localhost:${port}/p${i}.html`);
    const now = rows.map((r) => (r === "The yard" ? "The old yard" : r));
    expect(await got?.text()).toBe(text(i, now).replace('"12.html">The old', '"8.html">The old'));
  }
});
