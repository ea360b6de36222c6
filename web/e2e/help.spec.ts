import AxeBuilder from "@axe-core/playwright";
import { expect, openBlock, test } from "./bench";

test.describe("the first time", () => {
  test.use({ toured: false });
  test("a tour of four steps tells what is where, and is left for good", async ({
    page,
    running,
  }) => {
    await openBlock(page, running, "footer");
    const tour = page.getByRole("region", { name: "Tour" });
    const within = async (selector: string) =>
      expect(page.locator(`${selector}.toured`)).toBeVisible();
    await expect(tour.getByRole("heading")).toHaveText("The shelf 1 of 4");
    await within("aside");
    const axe = new AxeBuilder({ page }).include(".tour").setLegacyMode(true);
    expect((await axe.analyze()).violations).toEqual([]);
    await tour.getByRole("button", { name: "Next" }).click();
    await within(".subject");
    await page.keyboard.press("Enter");
    await expect(tour.getByRole("heading")).toHaveText("The wall 3 of 4");
    await within(".wall");
    await tour.getByRole("button", { name: "Back" }).click();
    await expect(tour.getByRole("heading")).toHaveText("The bench 2 of 4");
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await expect(tour.getByRole("heading")).toHaveText("Review 4 of 4");
    await tour.getByRole("button", { name: "Done" }).click();
    await expect(tour).toHaveCount(0);
    await expect(page.locator(".toured")).toHaveCount(0);
    await page.reload();
    await expect(page.locator(".cm-content")).toBeVisible();
    await expect(tour).toHaveCount(0);

    // It comes again when one asks for it, and Escape leaves it.
    await page.keyboard.press("Control+k");
    await page.keyboard.type("tour");
    await page.keyboard.press("Enter");
    await tour.getByRole("button", { name: "Next" }).focus();
    await page.keyboard.press("Escape");
    await expect(tour).toHaveCount(0);
  });

  test("on a phone each step is whole", async ({ page, running }) => {
    await page.setViewportSize({ width: 360, height: 740 });
    await openBlock(page, running, "footer");
    const tour = page.getByRole("region", { name: "Tour" });
    for (let step = 1; step <= 4; step++) {
      await expect(tour.getByRole("heading")).toContainText(`${step} of 4`);
      await expect(tour).toBeInViewport({ ratio: 1 });
      await tour.getByRole("button", { name: step < 4 ? "Next" : "Done" }).click();
    }
  });
});

test("the help beside a place follows to the next one", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.keyboard.press("F1");
  const help = page.getByRole("region", { name: "Help" });
  await expect(help).toBeFocused();
  await expect(help.getByRole("heading", { level: 2 })).toContainText("A block");
  const seen = new Set([await help.innerText()]);
  for (const place of [
    "Pages",
    "Rules",
    "Layouts",
    "Menus",
    "Files",
    "Site",
    "Reference",
    "Checks",
  ]) {
    await page
      .getByRole("navigation", { name: "Places" })
      .getByRole("link", { name: place })
      .click();
    await expect.poll(async () => seen.has(await help.innerText()), "each has its own").toBe(false);
    seen.add(await help.innerText());
  }
  const axe = new AxeBuilder({ page }).include(".help-panel").setLegacyMode(true);
  expect((await axe.analyze()).violations).toEqual([]);
  await help.focus();
  await page.keyboard.press("Escape");
  await expect(help).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Help on this place" })).toBeFocused();
});
