import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, legend, openBlock, rendering, test, typeBefore } from "./bench";

/** A folder of a site as it is published, without a trace of what has published it. */
function published(shelf: string): string {
  const out = join(mkdtempSync(join(tmpdir(), "old-")), "crossing");
  spawnSync("../bin/brickshelf", ["publish", shelf, "--out", out]); // of what is broken on it it tells, and goes on
  rmSync(join(out, ".shelf"), { recursive: true });
  renameSync(join(out, "_shelf"), join(out, "made"));
  for (const path of readdirSync(out, { recursive: true, encoding: "utf8" })) {
    if (!/\.(html|css|js)$/.test(path)) continue;
    const text = readFileSync(join(out, path), "utf8").replaceAll("/_shelf/", "/made/");
    writeFileSync(join(out, path), text);
  }
  return out;
}

/** Makes the pictures that the README shows. */
test("pictures", async ({ page, running }) => {
  test.setTimeout(180_000);
  const shot = async (name: string) => {
    await page.mouse.move(640, 60);
    await page.evaluate(() => document.fonts.ready);
    await page.waitForTimeout(900);
    await page.screenshot({ path: `../docs/screenshots/${name}.png` });
  };
  await openBlock(page, running, "port-card");
  await shot("block");
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "Our ");
  await expect(legend(page, "change")).toHaveText("64");
  await expect(rendering(page).getByText("Our Ticket desk")).toBeVisible();
  await shot("block-typing");
  await page.goto(`${page.url()}?peek=/ports/gull-rock/`);
  await expect(
    page.frameLocator('iframe[title^="After"]').getByText("Our Ticket desk"),
  ).toBeVisible();
  await shot("peek");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.getByText("64 pages differ from live")).toBeVisible();
  await page.getByRole("tab", { name: /Placements/ }).click();
  await page.getByLabel("Filter", { exact: true }).fill("aldwick");
  await page.getByRole("button", { name: "Detach on Aldwick", exact: true }).click();
  await expect(page.locator(".step")).toContainText("No byte");
  await expect(page.getByText("Saved to the draft")).toHaveCount(0);
  await shot("placements");
  await page.locator(".step").getByRole("button", { name: "Detach" }).click();
  await expect(legend(page, "copy")).toHaveText("1");
  await page.getByRole("link", { name: "Review" }).click();
  await expect(page.getByRole("heading", { name: /pages differ/ })).toBeVisible();
  await expect(page.getByText("Saved to the draft")).toHaveCount(0);
  await shot("review");
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  const main = page.getByRole("region", { name: "Region main" });
  await page
    .locator(".shelf-row", { hasText: "Film button" })
    .dragTo(main.getByRole("listitem").nth(1));
  await main.getByRole("button", { name: /^Film button/ }).click();
  await expect(page.getByRole("region", { name: "Call of Film button" })).toBeVisible();
  await expect(legend(page, "change")).toHaveText("1");
  await shot("page");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/ternholm/rules?region=footer`);
  await expect(legend(page, "linked")).toBeVisible();
  await shot("rules");
  await openBlock(page, running, "home-footer");
  await page.getByRole("button", { name: "Place by a rule" }).click();
  await page.getByRole("button", { name: "Include Port page page type", exact: true }).click();
  await page
    .getByRole("button", { name: "Remove all pages from the pages" })
    .or(page.getByText("on pages of the type Port page"))
    .first()
    .waitFor();
  await expect(legend(page, "own")).toHaveText("12");
  await shot("rule");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/ternholm/roll-out?block=film-button&region=sidebar`);
  await page.getByRole("button", { name: "Choose Port page page type", exact: true }).click();
  await page.getByRole("button", { name: "Choose Wide page page type", exact: true }).click();
  await page
    .getByRole("button", { name: "Choose Fares 6" })
    .or(page.getByRole("button", { name: "Choose All under /fares/ ", exact: true }))
    .first()
    .click();
  await expect(legend(page, "hidden")).toHaveText("1");
  await shot("roll-out");
  await page.goto(`${running.tool}/ternholm/layouts/port`);
  await page
    .getByRole("group", { name: "sidebar holds" })
    .getByRole("button", { name: "one thing" })
    .click();
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeEnabled();
  await shot("layout");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/ternholm/menus/main`);
  await page.getByRole("button", { name: "Move Ports" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(legend(page, "change")).toHaveText("65");
  await shot("menu");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/ternholm/checks?tab=copies`);
  await page.getByRole("button", { name: "Compare on Kelsay" }).click();
  await expect(page.locator(".cm-changedLine").first()).toBeVisible();
  await expect(legend(page, "held")).toHaveText("1");
  await shot("copies");
  await page.goto(`${running.tool}/ternholm/scripts/timetable`);
  await page.locator(".cm-scroller").evaluate((e) => e.scrollTo(0, 470));
  await typeBefore(page, " a day</caption>", " in all");
  await expect(legend(page, "change")).toHaveText("13");
  await shot("script");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/ternholm/files?path=assets/harbour.svg`);
  await expect(legend(page, "linked")).toBeVisible();
  await expect(page.locator(".cm-content")).toBeVisible();
  await shot("files");
  await page.goto(`${running.tool}/ternholm/blocks/port-card?tab=values`);
  await page.locator('[data-spot="1 2"]').click();
  await page.locator('[data-spot="4 2"]').click({ modifiers: ["Shift"] });
  await page.getByRole("textbox", { name: "Phone", exact: true }).fill("0900 11 22");
  await expect(legend(page, "change")).toHaveText("3");
  await shot("values");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.goto(`${running.tool}/?all`);
  for (const title of ["Corner Bakery", "Hill Farm"]) {
    await page.getByRole("button", { name: "New site" }).click();
    await page.getByRole("textbox", { name: "Title" }).fill(title);
    await page.getByRole("button", { name: "Make it" }).click();
    await expect(page.getByRole("link", { name: `${title}: all sites` })).toBeVisible();
    await page.goto(`${running.tool}/?all`);
  }
  await page.getByRole("button", { name: "New site" }).click();
  await page.getByRole("textbox", { name: "Title" }).fill("The night boat");
  await shot("sites");
  await page.goto(
    `${running.tool}/corner-bakery/parts?from=ternholm&of=blocks%2Fheader.html&of=blocks%2Fcallout.html`,
  );
  await page.getByRole("button", { name: "Side by side" }).first().click();
  await expect(page.locator(".cm-changedLine").first()).toBeVisible();
  await shot("parts");
  // The demo site as any web server would have it, brought as a site of its own.
  await page.goto(`${running.tool}/?all`);
  await page.getByLabel("The folder to bring").setInputFiles(published("../demo/ternholm"));
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Repeated pieces");
  await page
    .getByRole("button", { name: /^Crumbs/ })
    .first()
    .click();
  await expect(page.getByText("No page changes.")).toBeVisible();
  await expect(page.getByText(/other files came in/)).toHaveCount(0, { timeout: 15_000 });
  await shot("repeats");
  await openBlock(page, running, "port-card");
  await page.getByRole("button", { name: "Dark scheme" }).click();
  await openBlock(page, running, "port-card");
  await typeBefore(page, "<section", "<hr>");
  await expect(legend(page, "copy")).toHaveText("4");
  await shot("dark");
});
