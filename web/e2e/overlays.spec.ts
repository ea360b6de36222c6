import AxeBuilder from "@axe-core/playwright";
import { expect, openBlock, test } from "./bench";

test("the film is opened and closed by keyboard, and what opened it has the focus again", async ({
  page,
  running,
}) => {
  await page.goto(`${running.site}/travelling/car/`);
  const opener = page.locator('a[href="#boarding-film"]').first();
  const film = page.getByRole("dialog", { name: "Film: how boarding works" });
  await opener.focus();
  await expect(film).toBeHidden();
  await page.keyboard.press("Enter");
  await expect(film).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(film).toBeHidden();
  await expect(opener).toBeFocused();
});

test("without script the film opens by its link, and the widget can be read and closed", async ({
  browser,
  running,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto(`${running.site}/travelling/car/`);
  const film = page.getByRole("dialog", { name: "Film: how boarding works" });
  await page.locator('a[href="#boarding-film"]').first().click();
  await expect(film).toBeVisible();
  await film.getByRole("link", { name: "Close" }).click();
  await expect(film).toBeHidden();
  await expect(page.getByRole("link", { name: "I walk" })).toBeVisible();
  await page.getByText("Which boat takes you?").click();
  await expect(page.getByRole("link", { name: "I walk" })).toBeHidden();
  await context.close();
});

test("the widget stands in the corner of each page, stays closed, and within the text of one", async ({
  page,
  running,
}) => {
  await page.goto(`${running.site}/fares/`);
  const asks = page.locator("details", { hasText: "Which boat takes you?" });
  await expect(asks).toHaveCSS("position", "fixed");
  await expect(asks).toHaveAttribute("open");
  await asks.locator("summary").focus();
  await page.keyboard.press("Enter");
  await expect(asks).not.toHaveAttribute("open");
  await page.goto(`${running.site}/ports/`);
  await expect(asks).not.toHaveAttribute("open");
  await page.goto(`${running.site}/travelling/bicycle/`);
  const inline = page.locator("details.which");
  await expect(inline).toHaveCount(1);
  await expect(inline).toHaveCSS("position", "static");
  const broken = await new AxeBuilder({ page }).include("details.which").analyze();
  expect(broken.violations).toEqual([]);
});

test("a page that leads to an overlay and does not host it is mended from Checks", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/checks`);
  const finding = page.locator(".finding", { hasText: "leads to #boarding-film" });
  await finding.getByRole("button", { name: "Host it on all pages that lead to it" }).click();
  await expect(page.locator(".say")).toContainText("Changes 1 page.");
  await page.getByRole("button", { name: "Leave it" }).click();
  await finding.getByRole("button", { name: "Host it on this page" }).click();
  await expect(page.locator(".say")).toContainText("Changes 1 page.");
  await page.locator(".say").getByRole("button", { name: "Host it on this page" }).click();
  await expect(finding).toHaveCount(0);
});

test("the choice of a link offers overlays and says which pages lack them", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "promo");
  await page.getByRole("tab", { name: "Fields 3" }).click();
  const leads = page.getByRole("combobox", { name: "Leads to" });
  await leads.fill("film");
  await page.getByRole("option", { name: /^Film, opens over the page/ }).click();
  await expect(leads).toHaveValue("#boarding-film");
  await expect(page.getByText("not hosted on Sign in")).toBeVisible();
});
