import { expect, legend, openBlock, test, typeBefore } from "./bench";

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
  await shot("block-typing");
  await page.goto(`${page.url()}?peek=/ports/gull-rock/`);
  await expect(page.frameLocator('iframe[title^="After"]').getByText("Our Ticket desk")).toBeVisible();
  await shot("peek");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.getByText("64 pages differ from live")).toBeVisible();
  await page.getByRole("tab", { name: /Placements/ }).click();
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
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/routes/night-boat.html`);
  await expect(page.locator(".cm-content")).toBeVisible();
  await shot("page");
  await openBlock(page, running, "service-notice");
  await typeBefore(page, "<div class", "@{when colour is}");
  await expect(page.getByRole("list", { name: "Problems" })).toBeVisible();
  await shot("problem");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.getByRole("button", { name: "Dark scheme" }).click();
  await openBlock(page, running, "port-card");
  await typeBefore(page, "<section", "<hr>");
  await expect(legend(page, "copy")).toHaveText("4");
  await shot("dark");
});
