import { differing, expect, legend, openBlock, rendering, test } from "./bench";
import { Effort } from "./effort";

test("another logo on one page: 3; back to standard: 1; where it comes from", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  const look = rendering(page);
  await expect(look.locator(".logo")).toBeVisible();
  const e = new Effort(page);
  await e.act(() => look.locator("header.top").dispatchEvent("click"));
  const values = page.getByRole("region", { name: "Values of Header" });
  await e.fill(
    values.getByRole("combobox", { name: "Logo", exact: true }),
    "/assets/logo-freight.svg",
  );
  await expect(look.locator(".logo img")).toHaveAttribute("src", /logo-freight/);
  await expect(legend(page, "change")).toHaveText("1");
  await e.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  expect(e.count).toBeLessThanOrEqual(3);
  await expect(
    values.getByText("set here; otherwise /assets/logo.svg, from the block's default"),
  ).toBeVisible();
  await values.getByText("Where it comes from").first().click();
  await expect(values.locator(".wins").first()).toContainText(
    "this page, for this place: /assets/logo-freight.svg line 5",
  );
  const back = new Effort(page);
  await back.click(values.getByRole("button", { name: "Reset Logo" }));
  await expect(look.locator(".logo img")).toHaveAttribute("src", "/assets/logo.svg");
  expect(back.count).toBe(1);
  await page.keyboard.press("Control+s");
  await expect(differing(page, 0)).toBeVisible();
});

test("a value inside a block that a rule placed is this page's own, and the source leads to where it is said", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  const look = rendering(page);
  await look.locator(".side .season").dispatchEvent("click");
  const values = page.getByRole("region", { name: "Values of Season badge" });
  await expect(values).toContainText("sidebar/rule:port-help/season~1");
  await values.getByRole("textbox", { name: "Season" }).fill("Winter");
  await expect(look.locator(".side .season")).toContainText("Winter timetable");
  await expect(legend(page, "change")).toHaveText("1");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    '"sidebar/rule:port-help/season~1": {name: Winter}',
  );
  await page.getByRole("tab", { name: "Outline" }).click();
  await page.keyboard.press("Control+s");
  await expect(differing(page, 1)).toBeVisible();
  await expect(values.locator("header code")).toHaveText("sidebar/rule:port-help/season"); // the call has a key from now on
  await values.getByRole("textbox", { name: "Season" }).fill("Spring");
  await expect(look.locator(".side .season")).toContainText("Spring timetable");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    '"sidebar/rule:port-help/season": {name: Spring}',
  );
  await page.getByRole("tab", { name: "Outline" }).click();
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(look.locator(".side .season")).toContainText("Winter timetable");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(look.locator(".side .season")).not.toContainText("Winter"); // the rendering follows what is undone
  await expect(differing(page, 0)).toBeVisible();
  await page
    .getByRole("region", { name: "Region header" })
    .getByRole("button", { name: /^Header/ })
    .click();
  const header = page.getByRole("region", { name: "Values of Header" });
  await header.getByText("Where it comes from").nth(2).click();
  await header.getByRole("link", { name: "the rule Main header" }).first().click();
  await expect(page.getByRole("heading", { name: "Main header", level: 1 })).toBeVisible();
});

test("the same phone number on many port cards: 4; what is pasted; back again", async ({
  page,
  running,
}) => {
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
  await expect(differing(page, 4)).toBeVisible();
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
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(cell(1, 3)).toHaveText("Daily of its own");
  await expect(cell(2, 2)).toHaveText("0900 2 of its own");
  await expect(legend(page, "change")).toHaveText("1");
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(cell(1, 3)).not.toHaveText(/Daily/);
});

test("values out as CSV and in again, with what does not fit named, and words replaced", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/blocks/port-card?tab=values`);
  const grid = page.getByRole("grid", { name: "Values" });
  await expect(grid.getByRole("gridcell").first()).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page
      .getByRole("link", { name: "CSV out" })
      .or(page.getByRole("button", { name: "CSV out" }))
      .click(),
  ]);
  const chunks: Buffer[] = [];
  for await (const c of await download.createReadStream()) chunks.push(c as Buffer);
  const csv = Buffer.concat(chunks).toString("utf8");
  expect(csv).toContain("(page),(placement),name,address,phone");
  const give = (text: string) =>
    page
      .locator('input[type="file"]')
      .setInputFiles({ name: "cards.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await give(csv);
  await expect(page.getByText("That value is there already.")).toBeVisible();
  await give("\ufeff(page),phone,colour\r\n/about/,0900 55 66,red\r\n/nowhere/,1,\r\n");
  await expect(page.locator(".misfits")).toContainText(
    "The column colour is no field of the block; it is left out.",
  );
  await expect(page.locator(".misfits")).toContainText(
    "Line 3: the block does not stand on /nowhere/.",
  );
  await expect(legend(page, "change")).toHaveText("1");
  await page.locator(".misfits").getByRole("button", { name: "Close" }).click();
  await page.getByLabel("Find in values").fill("Every day");
  await page.getByLabel("Put in its place").fill("Daily");
  await page.getByRole("button", { name: /^Replace in/ }).click();
  await expect(grid.getByRole("gridcell", { name: /^Daily, 06:30/ }).first()).toBeVisible();
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
});

test("a rich text whose tags do not fit together is said to be saved in order, and is, in every form", async ({
  page,
  running,
}) => {
  const typed = "Bring <b>a coat";
  const ordered = "Bring <b>a coat</b>";
  const api = `${running.tool}/api/v1/sites/ternholm`;
  const made = await page.request.post(`${api}/change-sets`, {
    headers: { "X-Brick-Shelf": "1" },
    data: {
      title: "A tip",
      changes: [
        {
          path: "blocks/tip.html",
          before: "",
          text: "---\ntitle: Tip\nfields: {words: {type: rich, label: Words, default: Mind the gap}}\n---\n<p class=tip>@{=words}</p>\n",
        },
        {
          path: "rules/tip.yaml",
          before: "",
          text: "block: tip\nregion: main\non: [page:/tips/]\n",
        },
        {
          path: "pages/tips.html",
          before: "",
          text: "---\ntitle: Tips\nlayout: standard\n---\n@{tip /}\n",
        },
      ],
    },
  });
  expect(made.ok()).toBe(true);
  const saved = async (doc: string) =>
    (await page.request.get(`${api}/documents?path=${doc}`)).text();
  const open = {
    "blocks/tip.html": async () => {
      await openBlock(page, running, "tip");
      await page.getByRole("tab", { name: "Fields" }).click();
    },
    "rules/tip.yaml": () => page.goto(`${running.tool}/ternholm/rules/tip`),
    "pages/tips.html": async () => {
      await page.goto(`${running.tool}/ternholm/pages?doc=pages/tips.html`);
      await rendering(page).locator("p.tip").first().dispatchEvent("click");
    },
  };
  for (const [doc, form] of Object.entries(open)) {
    await form();
    await page.getByRole("button", { name: "as HTML" }).click();
    const box = page.getByRole("textbox", { name: "Words" });
    await box.fill(typed);
    await expect(page.getByText(`Saved as ${ordered}`)).toBeVisible();
    await expect(box, doc).toHaveValue(typed);
    await page.keyboard.press("Control+s");
    await expect.poll(() => saved(doc)).toContain(ordered);
  }
});
