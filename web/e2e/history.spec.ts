import AxeBuilder from "@axe-core/playwright";
import { differing, expect, legend, saveElsewhere, test } from "./bench";

test("a document is brought back as it was, with what that changes said before", async ({
  page,
  running,
}) => {
  await saveElsewhere(page, running, "blocks/footer.html", "</footer>", "<p>One</p></footer>");
  await saveElsewhere(page, running, "blocks/footer.html", "<p>One</p>", "<p>Two</p>");
  await page.goto(`${running.tool}/ternholm/blocks/footer?tab=history`);
  const was = page.getByRole("region", { name: "What it was" });
  await expect(was.getByRole("listitem")).toHaveCount(3);
  await expect(was.getByText("It is this now.")).toHaveCount(1);
  await page.getByRole("button", { name: /^Compare Edit .* 1 before/ }).click();
  await expect(was.locator(".cm-changedLine")).toHaveText([/One/, /Two/]);
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    const found = await new AxeBuilder({ page })
      .setLegacyMode(true)
      .options({ iframes: false })
      .analyze();
    expect(
      found.violations
        .filter((v) => v.impact === "serious" || v.impact === "critical")
        .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`),
    ).toEqual([]);
  }
  await page.getByRole("button", { name: /^Pages that Edit .* 1 before changed/ }).click();
  await expect(was.getByText(/It changed 64 pages: /)).toBeVisible();
  await expect(legend(page, "change")).toHaveText("64");
  await page.getByLabel("Sign my edits as").fill("Ina Ruud");
  await page.getByRole("button", { name: "Bring back as it was at first" }).click();
  await expect(page.getByText("Changes 64 pages.")).toBeVisible();
  await expect(legend(page, "change")).toHaveText("64");
  await page.getByRole("button", { name: "Bring it back" }).click();
  await expect(differing(page, 0)).toBeVisible();
  await expect(was.getByRole("listitem")).toHaveCount(4);
  await expect(was.getByText("by Ina Ruud")).toHaveCount(1);
  await page.getByRole("tab", { name: "Style" }).click();
  await expect(page.getByText("nothing of it has been changed since")).toBeVisible();
  for (const [place, tab] of [
    ["pages?doc=pages/about.html&tab=history", "Page"],
    ["layouts/standard?tab=history", "Layout"],
    ["menus/main?tab=history", "Menu"],
  ] as const) {
    await page.goto(`${running.tool}/ternholm/${place}`);
    await expect(page.getByText("It is as it was taken in"), tab).toBeVisible();
  }
  for (const place of ["rules/main-footer", "scripts/timetable"]) {
    await page.goto(`${running.tool}/ternholm/${place}`);
    await page.locator("summary", { hasText: /^History$/ }).click();
    await expect(page.getByText("It is as it was taken in"), place).toBeVisible();
  }
});

test("an old edit is taken back by itself, and what stands on it is named", async ({
  page,
  running,
}) => {
  await saveElsewhere(page, running, "blocks/footer.html", "</footer>", "<p>One</p></footer>");
  await saveElsewhere(page, running, "pages/contact.html", "wave from the pier", "wave");
  await saveElsewhere(page, running, "blocks/footer.html", "<p>One</p>", "<p>Two</p>");
  await page.goto(`${running.tool}/ternholm/review`);
  const edits = page.getByRole("region", { name: "Edits" });
  await edits.getByRole("button", { name: "Take back Edit blocks/footer.html" }).last().click();
  await expect(
    page.getByText('blocks/footer.html was changed since by "Edit blocks/footer.html (2)"'),
  ).toBeVisible();
  await expect(page.getByRole("button", { name: "Take it back" })).toBeDisabled();
  await page.getByRole("button", { name: "Leave it" }).click();
  await edits.getByRole("button", { name: "Take back Edit pages/contact.html" }).click();
  await expect(page.getByText("Changes 1 page.")).toBeVisible();
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(edits.getByText("Take back: Edit pages/contact.html")).toBeVisible();
  const contact = await page.request.get(
    `${running.tool}/api/v1/sites/ternholm/documents?path=pages/contact.html`,
  );
  expect(await contact.text()).toContain("wave from the pier");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(
    edits.getByRole("button", { name: "Do again Take back: Edit pages/contact.html" }),
  ).toBeVisible();
});
