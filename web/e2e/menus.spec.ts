import AxeBuilder from "@axe-core/playwright";
import { expect, rendering, saveElsewhere, test } from "./bench";
import { Effort } from "./effort";

test("one menu is a bar with wide panels, a drawer on a phone, and a list in the footer", async ({
  page,
  running,
}) => {
  await page.goto(`${running.site}/travelling/car/`);
  const nav = page.getByRole("navigation", { name: "Main" });
  const opener = nav.getByRole("button", { name: "Travelling" });
  await opener.focus();
  await page.keyboard.press("Enter");
  await expect(opener).toHaveAttribute("aria-expanded", "true");
  const panel = nav.locator(".panel", { has: page.getByRole("link", { name: "Refunds" }) });
  await expect(panel.getByRole("link", { name: "With a bicycle" })).toBeVisible();
  await expect(panel.getByRole("link", { name: "See the passes" })).toBeVisible();
  const [wide, all] = [await panel.boundingBox(), await page.locator(".top .wrap").boundingBox()];
  expect(wide?.width).toBe(all?.width); // as wide as the bar
  await page.keyboard.press("Escape");
  await expect(panel).toBeHidden();
  await expect(opener).toBeFocused();
  await expect(
    nav.getByRole("link", { name: "Travelling with all you bring" }).first(),
  ).toHaveClass("within");
  await expect(
    page.getByRole("navigation", { name: "All of the site" }).getByRole("link"),
  ).toHaveText([/Routes/, /Ports/, /Timetables/, /Fares/, /Travelling/, /Notices/]);

  await page.setViewportSize({ width: 390, height: 800 });
  await page.reload();
  await expect(nav.getByRole("link", { name: "Ports" })).toBeHidden();
  const menu = page.getByRole("button", { name: "Menu" });
  await menu.focus();
  await page.keyboard.press("Enter");
  await expect(nav.getByRole("link", { name: "Routes" })).toBeFocused();
  await nav.getByRole("button", { name: "Routes" }).press("Enter");
  await nav.getByRole("button", { name: "Corrie Sound" }).press("Enter");
  await expect(nav.getByRole("link", { name: "Harrow" })).toBeVisible();
  const found = await new AxeBuilder({ page }).include("header").analyze();
  expect(found.violations).toEqual([]);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(nav.getByRole("link", { name: "Ports" })).toBeHidden();
  await expect(menu).toBeFocused();
});

test("a panel with two menus and a block in it: 6", async ({ page, running }) => {
  const effort = new Effort(page);
  await page.goto(`${running.tool}/ternholm/menus/main`);
  await effort.click(page.getByRole("button", { name: "Ports /ports/" }));
  await effort.click(page.getByRole("button", { name: "Give it a panel" }));
  for (const [what, one] of [
    ["Put a menu in", "Fares"],
    ["Put a menu in", "Travelling"],
    ["Put a block in", "Pass offer"],
  ] as const) {
    await effort.choose(page.getByLabel(what), one);
  }
  await expect(page.getByRole("region", { name: "Call of Pass offer" })).toBeVisible();
  await expect(page.locator(".say")).toContainText(/Changes 6\d pages\./);
  const alone = page.frameLocator('iframe.front[title="The panel of Ports by itself"]');
  await expect(alone.getByRole("link", { name: "See the passes" })).toBeVisible();
  await expect(alone.locator("header.top")).toBeHidden();
  const list = page.getByRole("region", { name: "Calls" });
  await expect(list.getByRole("listitem")).toHaveText([
    /^menu.*fares/,
    /^menu.*travelling/,
    /^Pass offer/,
  ]);
  await effort.click(page.getByRole("button", { name: "Save to draft" }));
  await expect(page.locator(".draft-state")).toContainText(/6\d pages differ/);
  expect(effort.count).toBe(6);
  const shown = rendering(page).locator("nav .panel").first();
  await expect(shown.locator("a", { hasText: "Refunds" })).toHaveCount(1);
});

test("an entry is doubled, and what a menu does not lead to is pointed out", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/menus/freight`);
  await page.locator("summary", { hasText: "not in it" }).click();
  await page.getByRole("button", { name: "Add Contact to the menu" }).click();
  await page.getByRole("button", { name: "Contact /contact/" }).click();
  await page.getByRole("combobox", { name: "Only for" }).click();
  await page.getByRole("option", { name: "Those who are signed in" }).click();
  await expect(
    page.getByRole("button", { name: "Contact /contact/, only for those who are signed in" }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Double it" }).click();
  await page.getByLabel("Label").fill("Post");
  await page.getByRole("tab", { name: "Source" }).click();
  await expect(page.locator(".cm-content")).toContainText(
    "{label: Contact, to: /contact/, audience: signed-in}",
  );
  await expect(page.locator(".cm-content")).toContainText(
    "{label: Post, to: /contact/, audience: signed-in}",
  );
});

test("the panels of the menu are as wide as their entry, or as the page", async ({
  page,
  running,
}) => {
  const width = async (was: string, is: string) => {
    await saveElsewhere(page, running, "blocks/header.html", `default: ${was}}`, `default: ${is}}`);
    await page.goto(`${running.site}/_draft/travelling/car/`);
    await page.getByRole("button", { name: "Travelling" }).click();
    const panel = page.locator("nav .panel", {
      has: page.getByRole("link", { name: "Refunds" }),
    });
    await expect(panel).toBeVisible();
    return panel.evaluate(
      (e) => [e.getBoundingClientRect().width, document.documentElement.clientWidth] as const,
    );
  };
  const [entry, all] = await width("bar", "entry");
  expect(entry).toBeLessThan(all / 2);
  const [wide, whole] = await width("entry", "page");
  expect(wide).toBe(whole);
});
