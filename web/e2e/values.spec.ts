import { expect, legend, test } from "./bench";
import { Effort } from "./effort";

test("another logo on one page: 3; back to standard: 1; where it comes from", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  const look = page.frameLocator("iframe.front");
  await expect(look.locator(".logo")).toBeVisible();
  const e = new Effort(page);
  await e.act(() => look.locator("header.top").dispatchEvent("click"));
  const values = page.getByRole("region", { name: "Values of Header" });
  await e.fill(values.getByRole("combobox", { name: "Logo", exact: true }), "/assets/logo-freight.svg");
  await expect(look.locator(".logo img")).toHaveAttribute("src", /logo-freight/);
  await expect(legend(page, "change")).toHaveText("1");
  await e.press("Control+s");
  await expect(page.getByText("1 page differs from live")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(3);
  await expect(values.getByText("set here; otherwise /assets/logo.svg, from the block's default")).toBeVisible();
  await values.getByText("Where it comes from").first().click();
  await expect(values.locator(".wins").first()).toContainText("this page, for this place: /assets/logo-freight.svg line 5");
  const back = new Effort(page);
  await back.click(values.getByRole("button", { name: "Take back Logo" }));
  await expect(look.locator(".logo img")).toHaveAttribute("src", "/assets/logo.svg");
  expect(back.count).toBe(1);
  await page.keyboard.press("Control+s");
  await expect(page.getByText("0 pages differ from live")).toBeVisible();
});

test("a value inside a block that a rule placed is this page's own, and the rung leads to where it is said", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  const look = page.frameLocator("iframe.front");
  await look.locator(".side .season").dispatchEvent("click");
  const values = page.getByRole("region", { name: "Values of Season badge" });
  await expect(values).toContainText("sidebar/rule:port-help/season~1");
  await values.getByRole("textbox", { name: "Season" }).fill("Winter");
  await expect(look.locator(".side .season")).toContainText("Winter timetable");
  await expect(legend(page, "change")).toHaveText("1");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText('"sidebar/rule:port-help/season~1": {name: Winter}');
  await page.getByRole("tab", { name: "Make-up" }).click();
  await page.getByRole("button", { name: "Discard" }).click();
  await page.getByRole("region", { name: "Region header" }).getByRole("button", { name: /^Header/ }).click();
  const header = page.getByRole("region", { name: "Values of Header" });
  await header.getByText("Where it comes from").nth(2).click();
  await header.getByRole("link", { name: "the rule main-header" }).first().click();
  await expect(page.getByRole("heading", { name: "main-header", level: 1 })).toBeVisible();
});
