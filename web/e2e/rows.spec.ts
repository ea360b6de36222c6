import { expect, legend, openBlock, test, moveLifted } from "./bench";

test("a block that is a row of calls is put in order, added to and taken from as a list", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "sidebar-help");
  await page.getByRole("tab", { name: "As a list" }).click();
  const list = page.getByRole("region", { name: "Calls" });
  await expect(list.getByRole("listitem")).toHaveCount(3);
  const handle = list.getByRole("button", { name: "Move Film button 3", exact: true });
  const announced = page.locator("[aria-live='assertive']");
  await handle.focus();
  await page.keyboard.press("Space");
  await expect(announced).toContainText("would be 3 of");
  await moveLifted(page, "ArrowUp", 2);
  await page.keyboard.press("ArrowUp");
  await expect(announced).toContainText("would be 1 of");
  await page.keyboard.press("Space");
  await expect(list.getByRole("listitem").first()).toContainText("Film button");
  await expect(legend(page, "change")).not.toHaveText("0");

  await list.getByRole("button", { name: "Remove Season badge 3" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await list.getByRole("button", { name: "Add from the shelf" }).click();
  await page.getByLabel("Find a call").fill("year");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Insert it" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await list.getByRole("button", { name: "Set values of Film button 1" }).click();
  await page
    .getByRole("region", { name: "Call of Film button" })
    .getByLabel("Label", { exact: true })
    .fill("See the film");
  await page.getByRole("tab", { name: "As text" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    '@{film-button label="See the film" /}@{ask-us /}@{year /}',
  );
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
});

test("a call is added to a region of a page", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/fares/groups.html`);
  const region = page.getByRole("region", { name: "Region sidebar" });
  await region.getByRole("button", { name: "Add to sidebar" }).click();
  await page.getByLabel("Find a call").fill("promo");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Insert it" }).click();
  await expect(region.getByRole("listitem").last()).toContainText("Promo");
  await expect(legend(page, "change").or(legend(page, "break"))).toHaveText("1");
});
