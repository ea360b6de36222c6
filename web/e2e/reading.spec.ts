import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, legend, openBlock, rendering, test, typeBefore } from "./bench";

/** The frame that is seen, as large as it is on the screen. */
const frame = (page: Page) => page.locator('iframe.front[aria-busy="false"]');

const box = async (page: Page) => {
  const at = await frame(page).boundingBox();
  if (!at) throw new Error("there is no rendering");
  return at;
};

test("the rendering shows the placement at its real size, and keeps it in place while one types", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  const footer = rendering(page).locator("footer.foot");
  await expect(footer).toBeInViewport();
  expect((await box(page)).width).toBe(1280);
  const panel = await page.locator(".live").boundingBox();
  const at = await footer.boundingBox();
  expect(at?.x).toBeCloseTo(panel?.x ?? -1, 0);

  // What stands above it grows with what is typed; it stays at its height.
  const before = (await footer.boundingBox())?.y ?? 0;
  await typeBefore(page, '<footer class="foot"', "<p>One line above</p><p>and another</p>");
  await expect(legend(page, "change")).toBeVisible();
  await expect(rendering(page).getByText("One line above")).toBeAttached();
  const first = rendering(page).locator("[data-shelf-lit]").first();
  await expect(first).toBeInViewport();
  await expect
    .poll(async () => Math.abs(((await first.boundingBox())?.y ?? 0) - before))
    .toBeLessThanOrEqual(3);
});

test("its size is chosen and kept, it takes the whole window, and leads to the page itself", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  await page.getByRole("button", { name: "200 %" }).click();
  expect((await box(page)).width).toBe(2560);
  await expect(rendering(page).locator("[data-shelf-lit]").first()).toBeInViewport();
  await page.getByRole("button", { name: "Fit" }).click();
  const panel = await page.locator(".live").boundingBox();
  expect((await box(page)).width).toBeCloseTo(panel?.width ?? 0, 0);
  await page.reload();
  await expect(page.getByRole("button", { name: "Fit" })).toHaveAttribute("aria-pressed", "true");
  await page.getByRole("button", { name: "100 %" }).click();

  await page.getByRole("button", { name: "The whole window" }).click();
  await expect
    .poll(async () => (await page.locator(".panel.whole").boundingBox())?.width)
    .toBe(page.viewportSize()?.width);
  expect((await new AxeBuilder({ page }).exclude("iframe").analyze()).violations).toEqual([]);
  await page.keyboard.press("Escape");
  await expect(page.locator(".panel.whole")).toHaveCount(0);

  const live = page.getByRole("link", { name: "live" });
  await expect(live).toHaveAttribute("href", `${running.site}/about/`);
  const draft = page.getByRole("link", { name: "Open in a tab of its own" });
  await expect(draft).toHaveAttribute("href", /\/_draft\/about\//);
});

test("the divider is dragged over the rendering, moved by keys, and kept for its place", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "port-card");
  await expect(frame(page)).toBeVisible();
  const divider = page.getByRole("separator", { name: "Divider" });
  const at = await divider.boundingBox();
  const was = Number(await divider.getAttribute("aria-valuenow"));
  if (!at) throw new Error("there is no divider");
  await page.mouse.move(at.x + 8, at.y + 100);
  await page.mouse.down();
  await page.mouse.move(at.x + 120, at.y + 100, { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(async () => Number(await divider.getAttribute("aria-valuenow")))
    .toBeGreaterThan(was + 5);
  const now = Number(await divider.getAttribute("aria-valuenow"));
  await page.keyboard.press("ArrowRight");
  await expect(divider).toHaveAttribute("aria-valuenow", String(now + 5));
  await page.reload();
  await expect(divider).toHaveAttribute("aria-valuenow", String(now + 5));
  await page.goto(`${running.tool}/ternholm/pages`);
  await expect(divider).toHaveAttribute("aria-valuenow", "50");
});
