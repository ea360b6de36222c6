import { choose as pick, differing, expect, legend, openBlock, test, typeBefore } from "./bench";
import { Effort } from "./effort";

const values = (tool: string, block: string) => `${tool}/ternholm/blocks/${block}?tab=values`;

test("another logo on five pages: 6; which pages have their own: 1", async ({ page, running }) => {
  await page.goto(values(running.tool, "header"));
  const grid = page.getByRole("grid", { name: "Values" });
  await expect(grid.getByRole("gridcell").first()).toBeVisible();
  const e = new Effort(page);
  await e.fill(
    page.getByLabel("Filter", { exact: true }),
    "ports/lunna, ports/inver, ports/harrow, ports/kelsay, ports/corrie",
  );
  await e.click(grid.getByRole("button", { name: "Logo", exact: true }));
  await e.fill(
    page.getByRole("combobox", { name: "Logo", exact: true }),
    "/assets/logo-freight.svg",
  );
  await expect(legend(page, "change")).toHaveText("5");
  await e.press("Control+s");
  await expect(differing(page, 5)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(6);

  await page.getByLabel("Filter", { exact: true }).fill("");
  const which = new Effort(page);
  const own = grid.getByRole("button", { name: /have their own Logo/ });
  const count = Number(/^\d+/.exec((await own.textContent()) ?? "")?.[0]);
  expect(count).toBeGreaterThanOrEqual(5);
  await which.click(own);
  expect(which.count).toBe(1);
  await expect(page.getByTitle("placements")).toHaveText(new RegExp(`^${count} of `));
  await expect(grid.getByRole("rowheader", { name: /Lunna/ })).toBeVisible();

  await own.click(); // all again; three cells that do not lie together
  const cell = (row: number) => grid.locator(`[data-spot="${row} 0"]`);
  await cell(0).click();
  await cell(2).click({ modifiers: ["Control"] });
  await cell(4).click({ modifiers: ["Control"] });
  await expect(page.getByText("3 cells")).toBeVisible();
});

test("a field gets another name and another type, and is removed, with every value that pages give it", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/blocks/footer?tab=manage`);
  const form = page.getByRole("form", { name: "A field" });
  const choose = async (label: string, option: string | RegExp) => {
    await form.getByRole("combobox", { name: label }).click();
    await page.getByRole("option", { name: option }).click();
  };
  await choose("Field", /^Phone/);
  await form.getByLabel("New name").fill("line");
  await expect(form.getByRole("status")).toContainText("No page changes");
  await form.getByLabel("New name").fill("links");
  await expect(form.getByRole("status")).toContainText("has a field links already");
  await form.getByLabel("New name").fill("line");
  await expect(form.getByRole("status")).toContainText("No page changes");
  await form.getByRole("button", { name: "Change" }).click();
  await expect(page.getByText("Saved to the draft: Rename the field phone")).toBeVisible();
  await expect(differing(page, 0)).toBeVisible();

  await choose("Field", /^Phone/);
  await choose("What to do with it", "Change its type");
  await choose("New type of the field", "colour");
  await expect(form.getByRole("status")).toContainText("cannot be converted");
  await choose("What to do with it", "Remove it");
  await expect(form.getByRole("status")).toContainText("would stay without effect");
  await expect(form.getByRole("status")).toContainText("/contact/");
  await expect(legend(page, "break")).not.toHaveText("0");
  await form.getByRole("button", { name: "Remove" }).click();
  await expect(page.getByText("Saved to the draft: Remove the field line")).toBeVisible();

  await page.getByRole("tab", { name: "Values" }).click();
  const lost = page.getByRole("region", { name: "Values without a field" });
  const line = lost.locator("div").filter({ hasText: /^line:/ });
  await line.getByRole("button", { name: "Bring the field back" }).click();
  await expect(line.getByRole("status")).toContainText("Changes 1 page");
  await line.getByRole("button", { name: "Bring it back" }).click();
  await expect(differing(page, 0)).toBeVisible(); // it stands where it stood, with its default
  await expect(line).toHaveCount(0);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await line.getByRole("button", { name: "Bring the field back" }).click();
  await expect(line.getByRole("status")).toContainText("Changes 1 page");
  await line.getByRole("button", { name: "Leave it" }).click();
  await line.getByRole("button", { name: /^Drop/ }).first().click();
  await expect(line.getByRole("status")).toContainText("No page changes");
  await line.getByRole("button", { name: "Drop for good" }).click();
  await expect(line).toHaveCount(0);
});

test("a page's value becomes the default, kept or followed, or a value of the pages", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/contact.html`);
  await page
    .locator(".page-outline")
    .getByRole("button", { name: /^Footer placed/ })
    .click();
  const panel = page.getByRole("region", { name: "Values of Footer" });
  await panel.getByRole("button", { name: "Use Phone elsewhere" }).click();
  const move = panel.getByRole("group", { name: "Where to keep Phone" });
  const way = (words: RegExp) => move.locator("form").filter({ hasText: words });
  await expect(way(/old one keep it/).getByRole("status")).toContainText("No page changes");
  await expect(way(/old one follow/).getByRole("status")).toContainText(/Changes \d+ pages/);
  await expect(way(/What the rule Main footer sets/).getByRole("status")).toContainText(
    /Changes \d+ pages/,
  );
  await expect(way(/A value of every page/).getByRole("status")).toContainText("Changes 1 page"); // its card asks for the same
  await way(/old one follow/)
    .getByRole("button", { name: "Move it there" })
    .click();
  await expect(page.getByText(/Saved to the draft: Make 0900 44 10 the default/)).toBeVisible();
  await expect(panel.getByText("from the block's default").first()).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(differing(page, 0)).toBeVisible();
});

test("what a page says of nothing is aimed at what stands there, and a change says what holds", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/contact.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText("main-footer");
  const line = page.locator(".cm-line", { hasText: "main-footer" }).first();
  await line.click();
  await page.keyboard.press("End");
  for (let i = 0; i < '":'.length; i++) await page.keyboard.press("ArrowLeft");
  await page.keyboard.type("-old");
  await expect(legend(page, "break")).toHaveText("1");
  await page.keyboard.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  await page.getByRole("tab", { name: "Outline" }).click();
  const orphans = page.getByRole("region", { name: "Settings without a placement" });
  await expect(orphans).toContainText("phone: 0900 44 10");
  await pick(orphans.getByRole("combobox"), "footer/rule:main-footer");
  await orphans.getByRole("button", { name: "Aim it there" }).click();
  await page.locator(".say").getByRole("button", { name: "Aim it there" }).click();
  await expect(orphans).toHaveCount(0);
  await expect(differing(page, 0)).toBeVisible();

  await openBlock(page, running, "footer");
  await page.getByRole("tab", { name: /^Fields/ }).click();
  await page.getByRole("textbox", { name: "Phone" }).fill("0900 1");
  await expect(legend(page, "held")).toBeVisible();
  await page.locator('.legend [data-state="held"]').click(); // only those stand out
  await page.getByRole("button", { name: "Show as a list" }).click();
  await page.getByRole("button", { name: /^Contact/ }).click();
  await expect(page.locator(".peek .effects")).toContainText(
    "Footer keeps its own value in footer: phone: 0900 44 10",
  );
});

test("a piece of markup becomes a field, and no page changes", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "");
  for (let i = 0; i < "Ticket desk".length; i++) await page.keyboard.press("Shift+ArrowRight");
  await page.getByRole("button", { name: "Make a field of it" }).click();
  const form = page.getByRole("form", { name: "Make a field of the piece" });
  await form.getByLabel("Name of the field").fill("desk");
  await expect(form.getByRole("status")).toContainText("No page changes");
  await form.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByText("Saved to the draft: Make desk a field")).toBeVisible();
  await expect(page.locator(".cm-content")).toContainText("@{=desk}");
  await expect(differing(page, 0)).toBeVisible();
});
