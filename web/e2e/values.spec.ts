import { expect, legend, openBlock, test } from "./bench";
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

test("the same phone number on many port cards: 4; what is pasted; back again", async ({ page, running }) => {
  await openBlock(page, running, "port-card");
  await page.getByRole("tab", { name: "Values" }).click();
  const grid = page.getByRole("grid", { name: "Values" });
  await expect(grid.getByRole("gridcell").first()).toBeVisible();
  const cell = (row: number, col: number) => grid.locator(`[data-spot="${row} ${col}"]`);
  const e = new Effort(page);
  await e.click(cell(0, 2));
  await e.act(() => cell(6, 2).click({ modifiers: ["Shift"] }));
  await e.fill(page.getByRole("textbox", { name: "Phone", exact: true }), "0900 11 22");
  await expect(legend(page, "change")).toHaveText("4"); // home, about, contact, ports
  await e.press("Control+s");
  await expect(page.getByText("4 pages differ from live")).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(4);
  await expect(cell(6, 2)).toHaveText("0900 11 22 of its own");

  await page.getByRole("button", { name: "only what differs" }).click();
  await expect(cell(0, 2)).toBeVisible();
  await page.getByRole("button", { name: "only what differs" }).click();
  await cell(0, 2).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Delete");
  await expect(legend(page, "change")).toHaveText("1"); // three cards of the home page
  await expect(cell(1, 2)).toHaveText("0900 44 18");
  await page.keyboard.press("ArrowUp");
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "0900 1\tDaily\n0900 2\tNever\n");
    document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(cell(1, 3)).toHaveText("Daily of its own");
  await expect(cell(2, 2)).toHaveText("0900 2 of its own");
  await expect(legend(page, "change")).toHaveText("1");
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(cell(1, 3)).not.toHaveText(/Daily/);
});
