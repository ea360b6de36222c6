import AxeBuilder from "@axe-core/playwright";
import { differing, expect, legend, published, rendering, test, typeBefore } from "./bench";

test("a script is tried out, edited and published, and what it breaks is seen first", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm`);
  await page
    .getByRole("navigation", { name: "Blocks" })
    .getByRole("link", { name: /Timetable/ })
    .click();
  const trial = page.getByRole("region", { name: "Try it out" });
  await expect(trial.getByRole("status")).toContainText("It gives HTML");
  await expect(legend(page, "linked")).toHaveText("13");
  await trial.getByLabel("Minutes between boats", { exact: true }).fill("270");
  await expect(rendering(page).getByText("Aldwick to Brannoch, 4 sailings a day")).toBeVisible();
  await trial.getByLabel("First boat", { exact: true }).fill("early");
  await expect(trial.getByRole("status")).toContainText(
    "early is not a time of day; write it as in 06:40",
  );
  await trial.getByLabel("First boat", { exact: true }).fill("06:40");

  await page.locator(".cm-scroller").evaluate((e) => e.scrollTo(0, e.scrollHeight));
  await typeBefore(page, "const last = minutes", "for (;;) {} ");
  await expect(trial.locator(".trial")).toContainText("took longer than 50 ms");
  await expect(legend(page, "break")).toHaveText("13");
  for (let i = 0; i < 12; i++) await page.keyboard.press("Backspace");
  await expect(page.getByRole("button", { name: "Discard" })).toHaveCount(0);

  await typeBefore(page, " a day</caption>", " in all");
  await expect(legend(page, "change")).toHaveText("13");
  await page.keyboard.press("Control+s");
  await expect(differing(page, 13)).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: "Publish" }).click();
  await expect(differing(page, 0)).toBeVisible();
  expect(await published(running, "/routes/aldwick-brannoch/")).toContain(
    "Aldwick to Brannoch, 10 sailings in all a day",
  );
});

test("a new script is begun, saved and called", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/reference`);
  await page.getByRole("button", { name: "New script" }).click();
  const form = page.getByRole("form", { name: "New script" });
  await form.getByLabel("Title of the new script").fill("Timetable");
  await expect(form).toContainText("timetable is taken");
  await form.getByLabel("Title of the new script").fill("Ship's bell");
  await form.getByRole("button", { name: "Begin it" }).click();
  await expect(page.getByRole("region", { name: "Try it out" }).getByRole("status")).toContainText(
    "It gives HTML",
  );
  await page.keyboard.press("Control+s");
  await expect(page.getByText("called on 0 pages")).toBeVisible();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/jobs.html&tab=source`);
  await page.locator(".cm-line").last().click();
  await page.getByRole("button", { name: "Insert a call" }).click();
  await page.getByLabel("Find a call").fill("ship's");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Insert it" }).click();
  await page
    .getByRole("region", { name: "Call of Ship's bell" })
    .getByLabel("Text", { exact: true })
    .fill("Ding <dong>");
  await expect(rendering(page).getByText("Ding <dong>")).toBeVisible();
  await expect(legend(page, "change")).toHaveText("1");
});

test("a set of shortcodes is switched on and off, and what that stops is listed", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/reference?part=sets`);
  const step = page.locator(".step");
  await page.getByRole("switch", { name: "Set tides" }).click();
  await expect(step).toContainText("Changes 2 pages.");
  await step.getByRole("button", { name: "Switch it on" }).click();
  await expect(differing(page, 2)).toBeVisible();
  await expect(page.getByRole("link", { name: /^Checks 2$/ })).toBeVisible();
  await page.getByRole("switch", { name: "Set dates" }).click();
  await expect(step).toContainText("These calls would show nothing:");
  await expect(step.getByRole("listitem").first()).toContainText("year~1");
  await step.getByRole("button", { name: "Leave it" }).click();
  for (const scheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme: scheme });
    for (const place of ["reference?part=sets", "scripts/timetable"]) {
      await page.goto(`${running.tool}/ternholm/${place}`);
      await expect(page.locator(".subject")).toBeVisible();
      const found = await new AxeBuilder({ page }).exclude("iframe").analyze();
      expect(
        found.violations
          .filter((v) => v.impact === "serious" || v.impact === "critical")
          .map((v) => `${place} ${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`),
      ).toEqual([]);
    }
  }
});
