import {
  differing,
  expect,
  legend,
  openBlock,
  rendering,
  test,
  typeBefore,
  moveLifted,
} from "./bench";

async function openPage(page: import("@playwright/test").Page, tool: string, doc: string) {
  await page.goto(`${tool}/ternholm/pages?doc=${doc}&tab=source`);
  await expect(page.locator(".cm-content")).toBeVisible();
}

test("a parameter is changed on one placement, and only there", async ({ page, running }) => {
  await openPage(page, running.tool, "pages/about.html");
  await page.locator(".shelf-word", { hasText: "port-card" }).first().click();
  const form = page.getByRole("region", { name: "Call of Port card" });
  await expect(form.getByRole("textbox", { name: "Name" })).toHaveValue("Head office");
  await form.getByLabel("Phone", { exact: true }).fill("0900 44 99");
  await expect(page.locator(".cm-content")).toContainText('phone="0900 44 99"');
  await expect(legend(page, "change")).toHaveText("1");
  await expect(rendering(page).getByText("0900 44 99")).toBeVisible();
  await form.getByRole("button", { name: "Reset Phone" }).click();
  await expect(page.locator(".cm-content")).not.toContainText("phone=");
  await expect(page.getByRole("button", { name: "Discard" }), "the text is as it was").toHaveCount(
    0,
  );
});

test("a call is found, inserted and filled in", async ({ page, running }) => {
  await openPage(page, running.tool, "pages/jobs.html");
  await page.locator(".cm-line").last().click();
  await page.getByRole("button", { name: "Insert a call" }).click();
  await page.getByLabel("Find a call").fill("ship");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Insert it" }).click();
  const form = page.getByRole("region", { name: "Call of Ship facts" });
  await form.getByRole("textbox", { name: "Built" }).fill("soon");
  await expect(form).toContainText('built is a number and cannot be "soon"');
  await form.getByRole("textbox", { name: "Built" }).fill("1998");
  await expect(page.locator(".cm-content")).toContainText("@{ship-facts built=1998 /}");
  await page.keyboard.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
});

test("the editor completes names and parameters", async ({ page, running }) => {
  await openPage(page, running.tool, "pages/jobs.html");
  await page.locator(".cm-line").last().click();
  await page.keyboard.type("@{callo");
  const list = page.getByRole("listbox");
  await expect(list.getByRole("option", { name: /callout/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await page.keyboard.type(" to");
  await expect(list.getByRole("option", { name: /tone/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.locator(".cm-content")).toContainText('@{callout tone="');
});

test("the reference says how everything is called", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.getByRole("link", { name: "Reference" }).click();
  await page
    .getByRole("navigation", { name: "What can be called" })
    .getByRole("link", { name: /Timetable/ })
    .click();
  const entry = page.getByRole("region", { name: "Timetable" });
  await expect(entry).toContainText('@{timetable from="…" to="…"} … @{/timetable}');
  await expect(entry.getByRole("row", { name: /^from/ })).toContainText("required");
  await expect(rendering(page).getByText("Every 90 minutes.")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/reference/image`);
  await expect(page.getByRole("region", { name: "image" })).toContainText("Built in");
});

test("lists and links have editors of their own, and the text follows", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await page.getByRole("tab", { name: /Fields/ }).click();
  const links = page.getByRole("group", { name: "Links" });
  await links.getByRole("button", { name: "Remove Links 2" }).click();
  await expect(legend(page, "change")).toHaveText("64");
  await links.getByRole("button", { name: "Add to links" }).click();
  await links.getByLabel("label").last().fill("Pets");
  await expect(rendering(page).getByRole("link", { name: "Pets" })).toBeVisible();
  await links.getByRole("button", { name: "Move Links 1", exact: true }).focus();
  const announced = page.locator("[id^=DndLiveRegion]");
  await page.keyboard.press("Space");
  await expect(announced).toContainText("would be 1 of");
  await moveLifted(page, "ArrowDown", 2);
  await page.keyboard.press("Space");
  await expect(links.getByLabel("label").first()).toHaveValue("Accessibility");
  await page.getByRole("tab", { name: "Markup" }).click();
  await page.getByRole("button", { name: /lines: title, fields/ }).click();
  await expect(page.locator(".cm-content")).toContainText("label: Accessibility");
});

test("a field written in the markup has its editor at once", async ({ page, running }) => {
  await openBlock(page, running, "callout");
  await page.getByRole("button", { name: /lines: title, fields/ }).click();
  await typeBefore(page, "title: {type: text", "");
  await page.keyboard.insertText("accent: {type: colour, label: Accent, default: '#888888'}\n  ");
  await page.getByRole("tab", { name: /Fields/ }).click();
  await expect(page.getByLabel("Accent", { exact: true })).toHaveValue("#888888");
});

test("what is pointed at in the rendering opens where it is written", async ({ page, running }) => {
  await openPage(page, running.tool, "pages/about.html");
  const look = rendering(page);
  await look.locator("[data-shelf-block*='port-card']").first().dispatchEvent("click");
  await expect(
    page.getByRole("region", { name: "Call of Port card" }).getByRole("textbox", { name: "Name" }),
  ).toHaveValue("Head office");
  await expect(look.locator("[data-shelf-lit]")).toHaveAttribute(
    "data-shelf-at",
    /main\/port-card~1/,
  );
  await look.locator("footer").first().dispatchEvent("click");
  await expect(page.getByRole("region", { name: "Values of Footer" })).toContainText(
    "footer/rule:main-footer",
  );
  await expect(page.getByRole("region", { name: "Call of Port card" })).toHaveCount(0);
  await page.getByRole("link", { name: "Open the block" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Footer");
});
