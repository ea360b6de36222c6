import AxeBuilder from "@axe-core/playwright";
import { expect, legend, openBlock, test } from "./bench";

test("every copy says how it stands, and stands beside what it came from", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  await page.getByRole("tab", { name: /Placements/ }).click();
  const filter = page.getByLabel("Filter", { exact: true });
  for (const [port, stands] of [
    ["harrow", "as it was cut loose"],
    ["inver", "behind its block"],
    ["lunna", "changed here"],
    ["kelsay", "changed here, and behind"],
  ] as const) {
    await filter.fill(port);
    await expect(page.locator("tr[data-address]")).toHaveCount(1);
    await expect(page.locator("tr[data-address] td").nth(3)).toHaveText(`one-off copy${stands}`, {
      ignoreCase: false,
    });
  }
  await page.getByRole("button", { name: "Compare on Kelsay" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  const changed = beside.locator("section", { hasText: "Changed on this page" });
  await expect(changed.locator(".cm-changedLine")).toHaveText(/Closed while the boat unloads/);
  await expect(
    beside.locator("section", { hasText: "Changed in the block" }).locator(".cm-changedLine"),
  ).toHaveText([/Open: /, /class="hours"/]);

  await beside.getByRole("tab", { name: "Rendered" }).click();
  for (const [title, has, lacks] of [
    ["What it came from", "Open: ", "Closed while the boat unloads."],
    ["The block now", "Every day", "Closed while the boat unloads."],
    ["The copy", "Closed while the boat unloads.", "never there"],
  ] as const) {
    const body = page.frameLocator(`iframe[title="${title}"].front`).locator(".port-card");
    await expect(body).toContainText(has);
    await expect(body).not.toContainText(lacks);
  }
});

test("what goes when a copy is linked again is shown before", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/checks?tab=copies`);
  await expect(page.locator(".finding")).toHaveText([
    /Kelsay .*changed here, and behind/,
    /Inver .*behind its block/,
    /Lunna .*changed here/,
    /Harrow .*as it was cut loose/,
  ]);
  await expect(legend(page, "copy")).toHaveText("4");
  await page.getByRole("button", { name: "Compare on Inver" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  await expect(beside).toContainText("It holds what it came from; the block has moved on since.");
  await expect(beside.getByText("No difference.")).toHaveCount(1);
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

  await page.locator(".finding", { hasText: "Kelsay" }).getByRole("link").last().click();
  await expect(page.getByText("one-off copy, changed here, and behind")).toBeVisible();
  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Link again" }).click();
  await expect(beside).toContainText("What is marked on the left below goes");
  await expect(
    beside.locator(".cm-changedLine", { hasText: "Closed while the boat unloads" }),
  ).toHaveCount(1);
  await page.getByRole("button", { name: "Link it again" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(page.getByText("one-off copy")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("one-off copy, changed here, and behind")).toBeVisible();
});

test("what fits fields is kept when a copy is linked again: 3 actions", async ({
  page,
  running,
}) => {
  const at = `${running.tool}/api/v1/sites/ternholm/documents?path=pages/ports/harrow.html`;
  const was = await page.request.get(at);
  const text = (await was.text()).replace("Every day, 06:30 to 21:00", "In summer, 07:00 to 20:00");
  const saved = await page.request.put(at, {
    headers: { "X-Brick-Shelf": "e2e", "If-Match": was.headers().etag ?? "" },
    data: Buffer.from(text),
  });
  expect(saved.ok()).toBe(true);
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/harrow.html`);
  await expect(page.getByText("one-off copy, changed here")).toBeVisible();

  await page.getByRole("button", { name: "More for Port card" }).click();
  await page.getByRole("menuitem", { name: "Link again" }).click();
  const beside = page.getByRole("region", { name: "How the copy stands" });
  await expect(beside).toContainText(
    "What fits its fields becomes values of this placement: Hours: In summer, 07:00 to 20:00. " +
      "Nothing else changes on the page.",
  );
  await expect(page.getByRole("status").first()).toContainText("No page changes.");
  await page.getByRole("button", { name: "Link it again" }).click();
  await expect(page.getByText("one-off copy")).toHaveCount(0);
  await expect(
    page.getByText(
      '@{port-card name="Harrow" to="/ports/harrow/" hours="In summer, 07:00 to 20:00" /}',
    ),
  ).toBeVisible();
});
