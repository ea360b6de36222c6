import {
  differing,
  expect,
  legend,
  openBlock,
  published,
  rendering,
  test,
  typeBefore,
} from "./bench";
import { Effort } from "./effort";

test("make a block, put it on a page, rename it, delete it", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await page.getByRole("button", { name: "New block" }).click();
  await page.getByLabel("Title of the new block").fill("Lost property");
  await page.getByLabel("Category", { exact: true }).fill("Text");
  await expect(page.getByRole("form", { name: "New block" })).toContainText("@{lost-property /}");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Lost property");
  await expect(page.getByRole("link", { name: /Lost property/ })).toBeVisible();

  // It stands nowhere yet, and is seen all the same, as it is typed.
  await expect(rendering(page).locator(".lost-property")).toBeVisible();
  await typeBefore(page, "</div>", "<b>Asked for at the desk</b>");
  await expect(rendering(page).getByText("Asked for at the desk")).toBeVisible();
  await page.getByRole("button", { name: "Discard" }).click();

  await page.goto(`${running.tool}/ternholm/pages?doc=pages/jobs.html&tab=source`);
  await expect(page.locator(".cm-content")).toBeVisible();
  await typeBefore(page, "<p>", "@{lost-property /}");
  await page.keyboard.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();

  await page.goto(`${running.tool}/ternholm/blocks/lost-property?tab=manage`);
  const rename = page.getByRole("form", { name: "Rename" });
  await rename.getByLabel("New name").fill("footer");
  await expect(rename).toContainText("there is a block or shortcode footer already");
  await rename.getByLabel("New name").fill("found-things");
  await expect(rename).toContainText("No page changes.");
  await rename.getByRole("button", { name: "Rename" }).click();
  await expect(page).toHaveURL(/found-things/);
  await page.getByRole("tab", { name: "Placements" }).click();
  await expect(page.getByRole("table")).toContainText("Jobs");

  await page.getByRole("tab", { name: "Manage" }).click();
  const gone = page.getByRole("form", { name: "Delete" });
  await gone.getByLabel("Where it stands now").click();
  await page.getByRole("option", { name: "Delete only if it stands nowhere" }).click();
  await expect(gone).toContainText("found-things is used on 1 pages; leave a copy in every spot");
  await gone.getByLabel("Where it stands now").click();
  await page.getByRole("option", { name: "Replace it with one-off copies" }).click();
  await expect(gone).toContainText("No page changes.");
  await gone.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByRole("link", { name: /Found things|Lost property/ })).toHaveCount(0);
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(differing(page, 0)).toBeVisible();
  expect(await published(running, "/jobs/")).toContain(
    '<div class="lost-property">Lost property</div>',
  );
});

test("renaming a block that stands everywhere changes no page", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/blocks/port-card?tab=manage`);
  const rename = page.getByRole("form", { name: "Rename" });
  await rename.getByLabel("New name").fill("harbour-card");
  await expect(rename).toContainText("No page changes.");
  await rename.getByRole("button", { name: "Rename" }).click();
  await expect(page).toHaveURL(/harbour-card/);
  await expect(differing(page, 0)).toBeVisible();
  await expect(legend(page, "copy")).toHaveText("4");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByRole("link", { name: /Port card/ })).toHaveAttribute("href", /port-card/);
});

test("a piece of a page becomes a block, and the page stays as it is", async ({
  page,
  running,
}) => {
  const before = await published(running, "/jobs/");
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/jobs.html&tab=source`);
  await page.locator(".cm-line", { hasText: "We look for deckhands" }).click();
  await page.keyboard.press("Home");
  await page.keyboard.press("Shift+End");
  await page.getByRole("button", { name: "Make a block of it" }).click();
  const form = page.getByRole("form", { name: "Make a block of the piece" });
  await form.getByLabel("Title").fill("Vacancy");
  await form.getByLabel(/We look for deckhands/).check();
  await expect(form).toContainText("No page changes.");
  await form.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Vacancy");
  await expect(page.getByText("stands on 1 page")).toBeVisible();
  await expect(page.locator(".cm-content")).toContainText("<p>@{=text}</p>");
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByText("0 edits waiting")).toBeVisible();
  expect(await published(running, "/jobs/")).toBe(before);
});

test("a page is moved, and every link to it follows", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/routes/night-boat.html&tab=settings`);
  await page.getByRole("button", { name: "Move", exact: true }).click();
  const form = page.getByRole("form", { name: "Move the page" });
  await form.getByLabel("New address").fill("/routes/round-trip/");
  await expect(form).toContainText("is the address of pages/routes/round-trip.html already");
  await form.getByLabel("New address").fill("/routes/by-night/");
  await expect(form).toContainText(/Changes \d+ pages/);
  await expect(form).toContainText("No new errors");
  await form.getByRole("button", { name: "Move" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Night boat");
  await expect(page.getByText("pages/routes/by-night.html")).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByText("0 edits waiting")).toBeVisible();
  expect(await published(running, "/")).toContain('href="/routes/by-night/"');
  expect(await published(running, "/routes/night-boat/")).toContain("url=/routes/by-night/");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/routes/night-boat.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText("layout:");
});

test("a block is made of elements chosen in the rendering", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/aldwick.html&tab=source`);
  await expect(page.locator(".cm-content")).toBeVisible();
  const look = rendering(page);
  await look.locator("h2[data-shelf-own]").nth(1).dispatchEvent("click");
  await expect(page.getByText("Chosen: h2 of this page's text.")).toBeVisible();
  await look.locator("p[data-shelf-own]").last().dispatchEvent("click", { shiftKey: true });
  await expect(page.getByText("Chosen: h2 p of this page's text.")).toBeVisible();
  await page.getByRole("button", { name: "Make a block of it" }).click();
  const form = page.getByRole("form", { name: "Make a block of the piece" });
  await form.getByRole("textbox", { name: "Title" }).fill("Parking");
  await expect(form).toContainText("No page changes.");
  await form.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Parking");
  await expect(differing(page, 0)).toBeVisible();
});

test("what a behaviour or style cannot be is told as it is typed, and in Checks", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/blocks/tabs`);
  await page.getByRole("tab", { name: "Behaviour" }).click();
  await typeBefore(page, "let made", "foo(;\n");
  const problems = page.getByRole("list", { name: "Problems" });
  await expect(problems).toContainText("blocks/tabs.js:1:5 is no JavaScript that a browser runs");
  await expect(page.locator(".cm-lintRange-error")).toHaveCount(1);
  await expect(page.getByText(/breaks/).first()).toBeVisible();
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(problems).toContainText("blocks/tabs.js:1:5");
  await page.goto(`${running.tool}/ternholm/checks`);
  await expect(page.locator(".finding", { hasText: "is no JavaScript" })).toHaveCount(1);
  await page.goto(`${running.tool}/ternholm/blocks/tabs`);
  await page.getByRole("tab", { name: "Style" }).click();
  await typeBefore(page, ".tabs", "} ");
  await expect(problems).toContainText("blocks/tabs.css:1:");
  await expect(problems).not.toContainText("blocks/tabs.js:1:5 is no CSS");
});

test("a field is added in a form and shown in the markup: 4 actions", async ({ page, running }) => {
  await openBlock(page, running, "callout");
  await page.locator(".cm-line", { hasText: "<strong>" }).click();
  await page.keyboard.press("Home"); // of the row, where the line is wrapped
  await page.keyboard.press("Home");
  const e = new Effort(page);
  await e.click(page.getByRole("tab", { name: /^Fields/ }));
  await e.fill(page.getByRole("textbox", { name: "New field" }), "Small print");
  await e.click(page.getByRole("button", { name: "Add", exact: true }));
  await e.click(page.getByRole("button", { name: "Show it in the markup" }));
  await expect(page.locator(".cm-content")).toContainText("@{=small-print}<div class");
  expect(e.count).toBe(4);
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  const text = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=blocks/callout.html`,
  );
  expect(await text.text()).toContain("small-print: {type: text, label: Small print}");

  await page.getByRole("tab", { name: /^Fields/ }).click();
  await page.locator("summary", { hasText: "small-print" }).click();
  await page.getByLabel("Help", { exact: true }).fill("At the foot.");
  await page.getByLabel("Every placement needs a value").check();
  await expect(page.getByText("At the foot.; required")).toBeVisible();
  const form = page.getByRole("form", { name: "New field" });
  await form.getByRole("textbox", { name: "New field" }).fill("Mood");
  await form.getByRole("combobox", { name: "Type" }).click();
  await page.getByRole("option", { name: "choice" }).click();
  await expect(form.getByRole("button", { name: "Add" })).toBeDisabled();
  await form.getByLabel("Choices").fill("calm, loud");
  await form.getByRole("button", { name: "Add" }).click();
  await expect(page.getByRole("combobox", { name: "Mood" })).toHaveText("calm");
});
