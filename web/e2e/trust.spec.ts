import { expect, openBlock, rendering, test, typeBefore } from "./bench";

test("style, behaviour and markup are saved together, in any order, and nothing is left behind", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "tabs");
  const editor = page.locator(".cm-content");
  const add = async (part: RegExp, text: string) => {
    await page.getByRole("tab", { name: part }).click();
    await editor.click();
    await page.keyboard.press("Control+End");
    await page.keyboard.type(text);
  };
  await add(/Style/, "\n.first{}");
  await add(/Behaviour/, "\n// first");
  await expect(page.getByText(/^Changes /)).toBeVisible();
  await page.keyboard.press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Discard" }), "nothing is unsaved").toHaveCount(0);
  await add(/Style/, "\n.second{}");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await add(/Markup/, "<!-- third -->");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("3 edits waiting")).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Discard" })).toHaveCount(0);
});

test("what a closed tab had not saved is offered again", async ({ context, running }) => {
  const one = await context.newPage();
  await openBlock(one, running, "callout");
  await typeBefore(one, "</div>", "not saved yet");
  await one.goto(`${running.tool}/ternholm/checks`);
  await expect(one.getByRole("status").filter({ hasText: "Unsaved in" })).toHaveText(
    "Unsaved in Callout.",
  );
  await one.close();
  const two = await context.newPage();
  await two.goto(`${running.tool}/ternholm/checks`);
  await expect(two.getByText("Not saved when a tab was closed")).toBeVisible();
  await two.getByRole("button", { name: "Look at it" }).click();
  await expect(two.getByText("not saved yet")).toBeVisible();
  await two.getByRole("button", { name: "Go on with it" }).click();
  await two.getByRole("link", { name: "Callout", exact: true }).click();
  await expect(two.locator(".cm-content")).toContainText("not saved yet");
  await expect(two.getByRole("button", { name: "Save to draft" })).toBeEnabled();
});

test("a tab that was opened by another keeps its own unsaved text, and a reload finds it again", async ({
  context,
  running,
}) => {
  const one = await context.newPage();
  await openBlock(one, running, "callout");
  await typeBefore(one, "</div>", "typed in the first");
  const opened = context.waitForEvent("page");
  // As a duplicated tab does, a window that is opened begins with its opener's session.
  await one.evaluate(() => {
    window.open(location.href.replace("callout", "port-card"));
  });
  const two = await opened;
  await expect(two.locator(".cm-content")).toBeVisible();
  await typeBefore(two, "</", "typed in the second");
  await typeBefore(one, "</div>", ", and again");
  const kept = (page: typeof one) => page.evaluate(() => JSON.stringify(localStorage));
  await expect.poll(() => kept(one)).toContain("typed in the second");
  await expect.poll(() => kept(one)).toContain("typed in the first, and again");
  for (const [page, words] of [
    [one, "typed in the first, and again"],
    [two, "typed in the second"],
  ] as const) {
    await page.reload();
    await expect(page.locator(".cm-content"), words).toContainText(words);
    await expect(
      page.getByText("Not saved when a tab was closed"),
      "no tab was closed",
    ).toHaveCount(0);
  }
});

test("Ctrl+Z takes back what is not saved before what is, and a page's own script can do neither", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "callout");
  await typeBefore(page, "</div>", "saved");
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await page.getByRole("tab", { name: "Placements" }).click();
  await page
    .getByRole("button", { name: /^Detach on/ })
    .first()
    .click();
  await expect(page.getByText("No byte of any page changes.")).toBeVisible();
  await page.locator("h1").click();
  await page.keyboard.press("Control+z");
  await expect(
    page.getByText("No byte of any page changes."),
    "what waits is taken back",
  ).toHaveCount(0);
  await expect(page.getByText("1 edit waiting")).toBeVisible();

  await page.getByRole("tab", { name: "Make" }).click();
  await rendering(page)
    .locator("body")
    .evaluate(() => {
      for (const key of ["z", "s"]) parent.postMessage({ shelf: "key", key, ctrl: true }, "*");
      parent.postMessage({ shelf: "key", key: "?", ctrl: false }, "*");
    });
  await expect(page.getByRole("dialog"), "a key that changes nothing is heard").toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByText("1 edit waiting"), "the others are not").toBeVisible();

  await page.locator("h1").click();
  await page.keyboard.press("Control+z");
  await expect(page.getByText("0 edits waiting")).toBeVisible();
});

test("calls that are inserted one after the other stand one behind the other", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "callout");
  const insert = async (name: string) => {
    await page.getByRole("button", { name: "Insert a call" }).click();
    await page.getByRole("textbox", { name: "Find a call" }).fill(name);
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Insert it" }).click();
  };
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await insert("season");
  await insert("year");
  await expect(page.locator(".cm-content")).toContainText(/@\{season[^{}]*\/\}@\{year \/\}/);
});
