import {
  choose,
  expect,
  fillDay,
  legend,
  openBlock,
  published,
  rendering,
  test,
  type Running,
} from "./bench";
import type { Page } from "@playwright/test";

const openPage = async (page: Page, { tool }: Running, doc: string) => {
  await page.goto(`${tool}/ternholm/pages?doc=${encodeURIComponent(doc)}`);
  await expect(page.getByRole("region", { name: "Region main" })).toBeVisible();
};
const save = async (page: Page) => {
  await page.getByRole("button", { name: /^Save/ }).click();
  await expect(page.getByText(/Saved to the draft/).first()).toBeVisible();
};
const inTree = async (page: Page, tree: string, words: string, button: string) => {
  await page.getByRole("searchbox", { name: `Find in ${tree}` }).fill(words);
  await page.getByRole("button", { name: button, exact: true }).click();
};
/** Moves what is focused with the keyboard, one step in a direction. */
const carry = async (page: Page, way: "ArrowUp" | "ArrowDown") => {
  for (const key of ["Space", way, "Space"]) {
    await page.keyboard.press(key);
    await page.waitForTimeout(150); // the list measures itself in between
  }
};
const parts = (page: Page, region: string) =>
  page.getByRole("region", { name: `Region ${region}` }).getByRole("listitem");

test("a rule is written as a sentence, seen on the wall and switched off", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "winter-banner");
  await page.getByRole("button", { name: "Place by a rule" }).click();
  await expect(page.getByRole("heading", { name: "Winter banner", level: 1 })).toBeVisible();
  await choose(page.getByLabel("Region", { exact: true }), "main");
  await inTree(page, "What the rule names", "/notices/", "Include All under /notices/ ");
  await expect(legend(page, "linked")).toHaveText("10");
  await page.getByRole("button", { name: "Exclude Notices /notices/", exact: true }).click();
  await expect(legend(page, "linked")).toHaveText("9");
  await expect(legend(page, "hidden")).toHaveText("1");
  await expect(page.getByText("Changes 9 pages.")).toBeVisible();
  await save(page);
  await expect(page.getByText("9 pages differ")).toBeVisible();
  await page.getByRole("switch", { name: /switched/ }).click();
  await expect(page.getByText("Changes 9 pages.")).toBeVisible();
  await save(page);
  await expect(page.getByText("0 pages differ")).toBeVisible();
});

test("a brick named on the wall, the rule that is outranked, and what it takes the place of", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "home-footer");
  await page.getByRole("button", { name: "Place by a rule" }).click();
  await page.getByRole("button", { name: "Include About us /about/", exact: true }).click();
  await expect(page.getByText("On 1 in place of Footer by Main footer.")).toBeVisible();
  await expect(legend(page, "own")).toHaveText("1");
  await page.locator(".brick-cursor").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter"); // about, named a moment ago
  await expect(page.getByText("on home-footer")).toHaveCount(0);
  await page.getByRole("button", { name: "all pages", exact: true }).click();
  await expect(page.getByText(/Loses 1 to Footer at home, which is more specific/)).toBeVisible();
  await expect(legend(page, "held")).toBeVisible();
});

test("a rule that loses every page goes first, and the home page is meant or left out in one step", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "winter-banner");
  await page.getByRole("button", { name: "Place by a rule" }).click();
  await choose(page.getByLabel("Region", { exact: true }), "footer");
  await page.getByRole("button", { name: "the home page", exact: true }).click();
  await expect(
    page.getByText(/Loses 1 to Footer at home, which comes first by name/),
  ).toBeVisible();
  await page.getByRole("button", { name: "Discard that edit first" }).click();
  await expect(page.getByText(/On 1 in place of Home footer by Footer at home/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Discard that edit first" })).toHaveCount(0);
  await page.getByRole("button", { name: "all pages except the home page instead" }).click();
  await expect(page.getByText(/On \d+ in place of Footer by Main footer/)).toBeVisible();
  await expect(page.getByText(/except the home page/)).toBeVisible();
  await expect(legend(page, "hidden")).toHaveText("1");
  await page.getByRole("button", { name: "the home page only instead" }).click();
  await expect(page.getByText(/On 1 in place of Home footer by Footer at home/)).toBeVisible();
  await expect(legend(page, "hidden")).toHaveCount(0);
});

test("a rule for a region and block that are not there, and one with its dates the wrong way round", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/rules/notice`);
  await fillDay(page, "From", "2027-05-01");
  await fillDay(page, "Until", "2027-04-01");
  await expect(page.getByText(/This cannot be saved yet: line \d+: .*2027-04-01/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Save to draft" })).toBeDisabled();
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(page.getByRole("button", { name: "Save to draft" })).toHaveCount(0);
  await page.goto(`${running.tool}/ternholm/rules/nowhere`);
  await expect(page.getByText("There is no rule nowhere.")).toBeVisible();
});

test("who wins, region by region, and an order given by keyboard", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/rules?region=footer`);
  await expect(legend(page, "linked")).toBeVisible();
  const handle = page.getByRole("button", { name: "Move Main footer" });
  await handle.focus();
  await carry(page, "ArrowUp");
  await expect(page.getByRole("button", { name: "Put them in this order" })).toBeEnabled();
  await expect(page.getByText("No page changes.")).toBeVisible(); // the home page is more specific
  await page.getByRole("button", { name: "Put them in this order" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
});

test("a block is dragged from the shelf, moved by keyboard, hidden, and taken out", async ({
  page,
  running,
}) => {
  await openPage(page, running, "pages/jobs.html");
  const before = await parts(page, "main").count();
  await page.locator(".shelf-row", { hasText: "Film button" }).dragTo(parts(page, "main").first());
  await expect(parts(page, "main")).toHaveCount(before + 1);
  await expect(page.getByText("Changes 1 page.")).toBeVisible();
  const handle = page.getByRole("button", { name: "Move Film button" });
  const at = async () =>
    (await parts(page, "main").allInnerTexts()).findIndex((t) => t.startsWith("Film button"));
  const was = await at();
  await handle.focus();
  await carry(page, was === 0 ? "ArrowDown" : "ArrowUp");
  await expect.poll(at).not.toBe(was);
  await save(page);
  await page
    .getByRole("region", { name: "Region main" })
    .getByRole("button", { name: "Hide Film button" })
    .click();
  await expect(page.getByText("Changes 1 page.")).toBeVisible();
  await expect(rendering(page).locator("body")).not.toContainText("See the film");
  await save(page);
  await page
    .getByRole("region", { name: "Region main" })
    .getByRole("button", { name: "Show Film button" })
    .click();
  await expect(
    page
      .getByRole("region", { name: "Region main" })
      .getByRole("button", { name: "Hide Film button" }),
  ).toBeVisible();
  await page.getByRole("button", { name: "More for Film button" }).click();
  await page.getByRole("menuitem", { name: "Take out" }).click();
  await expect(parts(page, "main")).toHaveCount(before);
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).not.toContainText("film-button");
  await expect(page.locator(".cm-content")).not.toContainText("hidden");
});

test("why something stands here and something else does not", async ({ page, running }) => {
  await openPage(page, running, "pages/index.html");
  const footer = page.getByRole("region", { name: "Region footer" });
  await expect(footer).toContainText("Home footer placed for the home page, by rule");
  await footer.getByRole("button", { name: "1 rule not applied: why?" }).click();
  await expect(footer).toContainText(
    "does not stand here: Footer at home is more specific than one for all pages",
  );
  await footer.getByRole("button", { name: /^Home footer/ }).click();
  await expect(footer.locator(".lit")).toContainText("Home footer");
});

test("a part of a page goes to another page, and a page gets another layout", async ({
  page,
  running,
}) => {
  await openPage(page, running, "pages/about.html");
  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Move to another page" }).click();
  await page.getByRole("combobox", { name: "Move port-card to the page" }).fill("/jobs/");
  await page.getByRole("button", { name: "See what it changes" }).click();
  await expect(legend(page, "change")).toHaveText("2");
  await page.getByRole("button", { name: "Move it there" }).click();
  await expect(page.getByText("2 pages differ")).toBeVisible();
  await expect(parts(page, "main").filter({ hasText: "Port card" })).toHaveCount(0);

  await openPage(page, running, "pages/fares/groups.html");
  await page.getByRole("tab", { name: "Settings" }).click();
  await page.getByRole("combobox", { name: "Layout" }).click();
  await page.getByRole("option", { name: "Wide page" }).click();
  await expect(page.getByText(/break/).first()).toBeVisible();
  await page
    .getByRole("combobox", { name: "What stands in sidebar, which Wide page lacks" })
    .click();
  await page.getByRole("option", { name: "goes into main" }).click();
  await page.getByRole("button", { name: "Change the layout" }).click();
  await expect(page.getByText("3 pages differ")).toBeVisible();
});

test("pages: new, renamed while typing, made a draft, duplicated, deleted", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/pages?tab=pages&doc=pages/ports/lunna.html`);
  await page.getByRole("button", { name: "New page" }).click();
  await page.getByLabel("Title of the page").fill("Skerry");
  await expect(page.getByLabel("Address")).toHaveValue("/ports/skerry/");
  await page.getByLabel("Address").fill("/ports/lunna/");
  await expect(
    page.getByText(
      "/ports/lunna/ is the address of pages/ports/lunna.html already; choose another",
    ),
  ).toBeVisible();
  await page.getByLabel("Address").fill("/ports/skerry/");
  await page.getByRole("button", { name: "Make it" }).click();
  await expect(page.getByRole("heading", { name: "Skerry", level: 1 })).toBeVisible();
  await expect(page.getByRole("region", { name: "Region main" })).toContainText(
    "Ticket office hours",
  ); // its type begins with it
  await page.getByRole("tab", { name: "Settings" }).click();
  await page.getByRole("textbox", { name: "Title" }).click();
  await page.keyboard.press("End");
  await page.keyboard.type(" Harbour", { delay: 40 });
  await expect(page.getByRole("textbox", { name: "Title" })).toHaveValue("Skerry Harbour");
  await page.keyboard.press("Control+s");
  await expect(page.getByRole("heading", { name: "Skerry Harbour", level: 1 })).toBeVisible();
  await page.getByRole("switch", { name: /A draft/ }).click();
  await save(page);
  await expect(page.getByText("a draft: it is not published")).toBeVisible();
  await page.getByRole("button", { name: "Duplicate" }).click();
  await page.getByRole("button", { name: "Duplicate it" }).click();
  await expect(page.getByRole("heading", { name: "Skerry Harbour 2", level: 1 })).toBeVisible();
  await page.goto(`${running.tool}/ternholm/pages?tab=settings&doc=pages/ports/lunna.html`);
  await page.getByRole("button", { name: "Delete", exact: true }).click();
  await expect(legend(page, "break")).toBeVisible(); // links lead there
  await page.getByRole("button", { name: "Delete the page" }).click();
  await expect(page.getByText(/Saved to the draft: Delete/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText(/Undone: Delete/)).toBeVisible(); // it is on its way until then
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/lunna.html`);
  await expect(page.getByRole("heading", { name: "Lunna", level: 1 })).toBeVisible();
});

test("a roll-out tells what happens to each page, is one edit, and goes back", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "film-button");
  await page.getByRole("link", { name: "Put on pages" }).click();
  await page.getByRole("button", { name: "sidebar", exact: true }).click();
  await inTree(page, "Pages", "/notices/", "Choose All under /notices/ ");
  await inTree(page, "Pages", "page type", "Choose Wide page page type");
  await inTree(page, "Pages", "/ports/", "Choose All under /ports/ ");
  await expect(legend(page, "change")).toBeVisible();
  await expect(legend(page, "same")).toBeVisible(); // ports have it through a rule
  await expect(legend(page, "hidden")).toHaveText("1"); // the wide page has no sidebar
  const list = page.getByRole("region", { name: "What happens to each page" });
  const only = page.getByRole("group", { name: "What happens to how many" });
  await only.getByRole("button", { name: /have it already/ }).click();
  await expect(list).toContainText(
    "film-button, which stands inside another block, at sidebar/rule:port-help/",
  );
  await only.getByRole("button", { name: /cannot have it/ }).click();
  await expect(list).toContainText("its layout has no region sidebar");
  const n = await legend(page, "change").innerText();
  await page.getByRole("button", { name: "Put it there" }).click();
  await expect(page.getByText(`${n} pages differ`)).toBeVisible();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await page.getByRole("tab", { name: "Take off" }).click();
  await inTree(page, "Pages", "all pages", "Choose All pages ");
  await expect(page.getByText(/lose it\./)).toBeVisible();
  await page.getByRole("button", { name: "Take it off" }).click();
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("0 pages differ")).toBeVisible();
});

test("a layout gets a region, and is not deleted while pages need it", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/layouts/port`);
  await page.getByRole("textbox", { name: "New region" }).fill("aside-note");
  await choose(page.getByLabel("stands behind"), "sidebar");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("rowheader", { name: "aside-note" })).toBeVisible();
  await page
    .getByRole("group", { name: "aside-note holds" })
    .getByRole("button", { name: "one thing" })
    .click();
  await page.getByLabel("Width of aside-note in pixels").fill("240");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText("aside-note: {mode: one, width: 240}");
  await save(page);
  await choose(page.getByLabel(/^Delete, its pages become/), "Page");
  await expect(page.getByText("Changes 12 pages.")).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.getByRole("tab", { name: "New pages" }).click();
  await page.getByLabel("New pages begin in aside-note with").fill("@{promo /}");
  await save(page);
  await page.getByRole("link", { name: "Put it on the pages that exist, into aside-note" }).click();
  await expect(page.getByText(/12 pages get it/)).toBeVisible();
});

test("a menu's entries are nested by keyboard and drag, and the rest stays as it is written", async ({
  page,
  running,
}) => {
  await page.setViewportSize({ width: 1280, height: 1300 });
  await page.goto(`${running.tool}/ternholm/menus/main`);
  await page.getByRole("button", { name: "Move Ports" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByText("Changes 65 pages.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Move Ports" })).toBeFocused();
  const [from, to] = [
    await page.getByRole("button", { name: "Move Fares" }).boundingBox(),
    await page.getByRole("button", { name: "Move Night boat" }).boundingBox(),
  ];
  if (!from || !to) throw new Error("no handles");
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 10, from.y - 10, { steps: 4 });
  await page.mouse.move(from.x + 31, to.y + 5, { steps: 8 });
  await page.mouse.up();
  await page.getByRole("button", { name: "Add an entry" }).click();
  await expect(page.getByText(/a menu item needs a label/)).toBeVisible();
  await page.getByRole("textbox", { name: "Label" }).fill("Harbours");
  await page.getByRole("combobox", { name: "Leads to" }).fill("/ports/");
  await page.getByRole("textbox", { name: "Badge" }).fill("new");
  await save(page);
  const source = await (
    await fetch(`${running.tool}/api/v1/sites/ternholm/documents?path=menus/main.yaml`, {
      headers: { "X-Brick-Shelf": "1" },
    })
  ).text();
  expect(source).toContain(
    "      - label: Fares\n        to: /fares/\n        items:\n          - {label: Passes, to: /fares/passes/}",
  );
  expect(source).toContain("  - {label: Harbours, to: /ports/, badge: new}");
  expect(source).toContain("      - {label: Night boat, to: /routes/night-boat/, badge: new}");
  await expect(page.getByText("65 pages differ")).toBeVisible();
});

test("the menu of the site opens and closes by keyboard on a small screen", async ({
  page,
  running,
}) => {
  await page.setViewportSize({ width: 380, height: 700 });
  await page.goto(`${running.site}/`);
  const nav = page.getByRole("navigation", { name: "Main" });
  await page.getByRole("button", { name: "Menu" }).focus();
  await expect(nav.getByRole("link", { name: "Timetables", exact: true })).toBeHidden();
  await page.keyboard.press("Enter");
  await expect(nav.getByRole("link", { name: "Timetables", exact: true })).toBeVisible();
  await expect(nav.getByRole("link", { name: "Routes", exact: true })).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(nav.getByRole("link", { name: "Timetables", exact: true })).toBeHidden();
  await expect(page.getByRole("button", { name: "Menu" })).toBeFocused();
});

test("what those who are signed in see, before and after publishing", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/rules/notice`);
  await choose(page.getByLabel("Audience"), "those who are signed in");
  await expect(page.getByText(/Changes 63 pages/)).toBeVisible();
  await save(page);
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  const notice = page.getByRole("region", { name: "Region notice" });
  await expect(notice).toContainText("shows nothing");
  await notice.getByRole("button", { name: /not applied: why/ }).click();
  await expect(notice).toContainText("is for signed-in visitors");
  await choose(page.getByLabel("Look as"), "signed in");
  await expect(notice).toContainText("Service notice placed for all pages");
  await expect(rendering(page).locator(".notice")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/review`);
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(page.getByText(/Published as release/)).toBeVisible();
  expect(await published(running, "/about/")).not.toContain('class="notice"');
  const signedIn = await fetch(`${running.site}/about/`, { headers: { cookie: "signed-in=1" } });
  expect(await signedIn.text()).toContain('class="notice"');
  expect(signedIn.headers.get("vary")?.toLowerCase()).toContain("cookie");
});

test("a rule with dates is seen on a day, and Review tells of it", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/rules/notice`);
  await fillDay(page, "From", "2031-05-01");
  await fillDay(page, "Until", "2031-05-09");
  await expect(page.getByText(/Changes 63 pages/)).toBeVisible();
  await save(page);
  await page.goto(`${running.tool}/ternholm/review`);
  await expect(page.getByText("2031-05-01")).toBeVisible();
  await expect(page.getByText("2031-05-10")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  await fillDay(page, "Look on a day", "2031-05-02");
  await expect(rendering(page).locator(".notice")).toBeVisible();
  await fillDay(page, "Look on a day", "2031-05-10");
  await expect(rendering(page).locator(".notice")).toHaveCount(0);
});
