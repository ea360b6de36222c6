import { differing, expect, legend, openBlock, test } from "./bench";

test("words are found wherever the site says them, and others put there", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await page.getByRole("heading", { name: "Footer", level: 1 }).click();
  await page.keyboard.press("Control+Shift+F");
  await page.keyboard.type("ticket");
  const spots = page.getByRole("region", { name: "Spots" });
  await expect(spots.getByRole("link", { name: "Footer", exact: true })).toBeVisible();
  const where = page.getByRole("group", { name: "Where to look" });
  await where.getByRole("button", { name: /^\d+ pages?$/ }).click();
  await expect(spots.getByRole("link", { name: "Footer", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Everywhere" }).click();

  // What is read counts: the label of the footer is one text whatever the case.
  await page.getByLabel("Find", { exact: true }).fill("ticket desk");
  await expect(spots.getByRole("checkbox")).toHaveCount(2);
  await page.getByRole("checkbox", { name: "Same capitals" }).check();
  await expect(page.getByText("Nothing in the site says that.")).toBeVisible();
  await page.getByRole("checkbox", { name: "Same capitals" }).uncheck();
  await page.getByLabel("Replace with").fill("Tickets & more");
  await expect(page.getByText("1 spot. Changes 64 pages.")).toBeVisible();
  await expect(legend(page, "change")).toHaveText("64");
  await page.keyboard.press("Enter");
  await expect(
    page.getByText("Saved to the draft: Replace “ticket desk” by “Tickets & more”"),
  ).toBeVisible();
  await expect(differing(page, 64)).toBeVisible();
  const text = await page.request.get(`${running.site}/_draft/about/`);
  expect(await text.text()).toContain("<b>Tickets &amp; more</b>");
});

test("some of the spots are replaced, by a pattern, as one edit", async ({ page, running }) => {
  await page.goto(
    `${running.tool}/ternholm/words?text=${encodeURIComponent("0900 (\\d\\d) (\\d\\d)")}`,
  );
  await expect(page.getByText("Nothing in the site says that.")).toBeVisible();
  await page.getByRole("checkbox", { name: "Regular expression" }).check();
  const spots = page.getByRole("region", { name: "Spots" });
  const all = spots.locator(".spot");
  await expect(all.first()).toBeVisible();
  await page.getByLabel("Replace with").fill("0901 $1 $2");
  await expect(spots.locator("ins").first()).toHaveText(/^0901 44 \d\d$/);
  const button = page.getByRole("button", { name: /^Replace \d+$/ });
  const count = Number((await button.innerText()).replace("Replace ", ""));
  expect(count).toBeGreaterThan(2);
  await spots.getByRole("checkbox", { name: "All of Footer" }).uncheck();
  await expect(page.getByText(new RegExp(`^${count - 1} of ${count} spots\\.`))).toBeVisible();
  await button.click();
  await expect(page.getByText(/^Saved to the draft: Replace/)).toBeVisible();
  await expect(all, "what was left out is what is left").toHaveCount(1);
  await expect(spots).toContainText("Footer");
  await page.getByRole("heading", { name: "Find and replace" }).click();
  await page.keyboard.press("Control+z");
  await expect(page.getByText(`${count} spots.`), "one undo").toBeVisible();

  await page.getByLabel("Find", { exact: true }).fill("(");
  await expect(page.getByText(/^this is no regular expression: missing closing \)/)).toBeVisible();
});

test("the finder leads to what the site says", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("mail boat");
  await page.getByRole("option", { name: /Mail boat in Fennick value/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Fennick");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("dark scheme");
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveClass(/dark/);
});
