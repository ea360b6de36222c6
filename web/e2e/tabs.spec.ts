import { expect, openBlock, test, typeBefore } from "./bench";

test("another tab sees a save, and a conflicting one loses nothing", async ({
  context,
  running,
}) => {
  const one = await context.newPage();
  const two = await context.newPage();
  await openBlock(one, running, "callout");
  await openBlock(two, running, "callout");
  await typeBefore(two, "</div>", "from two");

  await typeBefore(one, "</div>", "from one");
  await one.getByRole("button", { name: "Save to draft" }).click();
  await expect(one.getByText("1 edit waiting")).toBeVisible();

  await expect(two.getByText("1 edit waiting"), "the other tab hears of the save").toBeVisible();
  await expect(two.getByRole("alert")).toContainText("blocks/callout.html was changed elsewhere");
  await expect(two.getByText("from one")).toBeVisible();
  await expect(two.getByText("from two")).toBeVisible();
  await two.getByRole("button", { name: "Go on with mine" }).click();
  await expect(two.locator(".cm-content")).toContainText("from two");
  await two.getByRole("button", { name: "Save to draft" }).click();
  await expect(two.getByText("2 edits waiting")).toBeVisible();

  await expect(one.locator(".cm-content")).toContainText("from two");
  await one.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(one.locator(".cm-content"), "the first save stands in the history").toContainText(
    "from one",
  );
});

test("Ctrl+S right after a key in a form saves that key too", async ({ page, running }) => {
  await page.route("**/key-edits", async (route) => {
    await new Promise((go) => setTimeout(go, 400)); // a slow way there
    await route.continue();
  });
  await page.goto(`${running.tool}/ternholm/pages?tab=settings&doc=pages/jobs.html`);
  await page.getByRole("textbox", { name: "Title" }).click();
  await page.keyboard.press("End");
  await page.keyboard.type("!?");
  await page.keyboard.press("Control+s");
  await expect(page.getByRole("heading", { name: "Jobs!?", level: 1 })).toBeVisible();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
});
