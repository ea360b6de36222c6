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

test("change a word of the footer, look, save, publish, detach", async ({ page, running }) => {
  await page.goto(running.tool);
  await page.getByRole("link", { name: /^Footer/ }).click();
  await expect(legend(page, "linked")).toHaveText("58");
  await expect(legend(page, "own")).toHaveText("6");

  await typeBefore(page, "Ticket desk", "Our ");
  await expect(legend(page, "change")).toHaveText("64");
  await expect(legend(page, "hidden")).toHaveText("2");
  await expect(page.getByRole("status").first()).toContainText(
    /Changes 64 pages\. 2 pages hide it or lack the region\. No new errors; \d+ from before\./,
  );
  await expect(rendering(page).getByText("Our Ticket desk")).toBeVisible();
  expect(await published(running, "/ports/aldwick/")).not.toContain("Our Ticket desk");

  await page.getByRole("button", { name: "Look at them" }).click();
  const peek = page.getByRole("region", { name: "Before and after" });
  await expect(peek.getByText("would change")).toBeVisible();
  await expect(
    page.frameLocator('iframe[title^="After"]').getByText("Our Ticket desk"),
  ).toBeVisible();
  await expect(
    page.frameLocator('iframe[title^="Before"]').getByText("Ticket desk", { exact: true }),
  ).toBeVisible();
  const first = await peek.getByRole("heading").textContent();
  await page.keyboard.press("]");
  await expect(peek.getByRole("heading")).not.toHaveText(first ?? "");
  await peek.getByRole("tab", { name: "Source difference" }).click();
  await expect(peek.locator(".cm-changedLine").first()).toBeVisible();
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(differing(page, 64)).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await expect(page.getByRole("heading", { name: "64 pages differ" })).toBeVisible();
  await expect(page.getByText("Edit Footer").first()).toBeVisible();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(differing(page, 0)).toBeVisible();
  expect(await published(running, "/ports/aldwick/")).toContain("Our Ticket desk");

  const before = await published(running, "/ports/aldwick/");
  await page.getByRole("link", { name: /^Footer/ }).click();
  await page.getByRole("tab", { name: /Placements/ }).click();
  await page.getByLabel("Filter", { exact: true }).fill("aldwick");
  await page.getByRole("button", { name: "Detach on Aldwick", exact: true }).click();
  const step = page.locator(".step");
  await expect(step).toContainText("No byte of any page changes.");
  await expect(step).toContainText("63 other pages follow the block as before.");
  await step.getByRole("button", { name: "Detach" }).click();
  await expect(legend(page, "copy")).toHaveText("1");

  await page.getByRole("tab", { name: "Make" }).click();
  await typeBefore(page, "Our Ticket desk", "New ");
  await expect(legend(page, "change")).toHaveText("63");
  await expect(legend(page, "copy")).toHaveText("1");
  await page.keyboard.press("Control+s");
  await expect(differing(page, 63)).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(differing(page, 0)).toBeVisible();
  expect(await published(running, "/ports/aldwick/")).toBe(before);
  expect(await published(running, "/ports/brannoch/")).toContain("New Our Ticket desk");

  await page.getByRole("link", { name: /^Footer/ }).click();
  await page.getByRole("tab", { name: /Placements/ }).click();
  await page.getByLabel("Filter", { exact: true }).fill("aldwick");
  await page.getByRole("button", { name: "Link again on Aldwick", exact: true }).click();
  await expect(step).toContainText("Changes 1 page.");
  await step.getByRole("button", { name: "Link again" }).click();
  await expect(legend(page, "copy")).toHaveCount(0);
});

test("undo and redo what was saved", async ({ page, running }) => {
  await openBlock(page, running, "callout");
  await typeBefore(page, "</div>", "!");
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeEnabled();
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(differing(page, 0)).toBeVisible();
  await expect(page.locator(".cm-content")).not.toContainText("!</div>");
  await page.getByRole("button", { name: "Redo", exact: true }).click();
  await expect(page.locator(".cm-content")).toContainText("!</div>");
});

test("a syntax error is shown in place and cannot be saved", async ({ page, running }) => {
  await openBlock(page, running, "callout");
  await typeBefore(page, "</div>", "@{when x");
  const problems = page.getByRole("list", { name: "Problems" });
  await expect(problems).toContainText(/blocks\/callout\.html:\d+:\d+/);
  await expect(page.locator(".cm-lintRange-error").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeDisabled();
  await page.keyboard.press("Control+s");
  await expect(page.getByText("0 edits waiting")).toBeVisible();
  await page.reload();
  await expect(problems, "the unsaved text is still there after a reload").toContainText(
    "blocks/callout.html",
  );
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(problems).toHaveCount(0);
});

test("a default edited in the form changes just that in the text", async ({ page, running }) => {
  await openBlock(page, running, "service-notice");
  await page.getByRole("tab", { name: /Fields/ }).click();
  await page.getByLabel("Message").fill("All boats are late.");
  await expect(legend(page, "change")).toHaveText("63");
  await page.getByRole("tab", { name: "Markup" }).click();
  await page.getByRole("button", { name: /lines: title, fields/ }).click();
  await expect(page.locator(".cm-content")).toContainText('default: "All boats are late."}');
});

test("what an edit would break is said before it is saved", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "@{film /}", "@{# without }");
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeEnabled();
  await page.keyboard.press("Shift+End");
  await page.keyboard.press("Delete");
  await expect(
    legend(page, "break"),
    "pages with a button for the film, and none in the footer any more",
  ).toHaveText("27");
  await expect(page.getByRole("status").first()).toContainText("28 things break");
  await page.getByRole("button", { name: "Look at them" }).click();
  await expect(
    page.getByRole("region", { name: "Before and after" }).getByRole("status"),
  ).toContainText("leads to #boarding-film, and nothing on this page has that id");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Discard" }).click();
  await page.getByRole("link", { name: /^Checks/ }).click();
  await expect(page.getByRole("region", { name: "Findings" })).toContainText(
    "at sidebar/film-button~1: leads to #boarding-film",
  );
  await page.getByRole("link", { name: "Review" }).click();
  await expect(page.getByRole("region", { name: "What is broken" })).toContainText(
    "tide-clock is in the set tides, which is switched off",
  );
});

test("Ctrl+S right after a key saves that key too", async ({ page, running }) => {
  await openBlock(page, running, "callout");
  await typeBefore(page, "</div>", "quick");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await page.reload();
  await expect(page.locator(".cm-content")).toContainText("quick</div>");
});
