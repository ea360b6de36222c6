import type { Page } from "@playwright/test";
import { differing, expect, openBlock, test, typeBefore } from "./bench";

/** How something is told apart: its colours, as they are drawn. */
const colours = (page: Page, selector: string) =>
  page
    .locator(selector)
    .first()
    .evaluate((e) => {
      const style = getComputedStyle(e);
      return [style.backgroundColor, style.color, style.borderBottomColor].join(" ");
    });

for (const scheme of ["light", "dark"] as const)
  test(`with the system's colours (${scheme}) one sees what is current`, async ({
    page,
    running,
  }) => {
    await page.emulateMedia({ forcedColors: "active", colorScheme: scheme });
    await openBlock(page, running, "footer");
    for (const [current, other] of [
      ['.places a[aria-current="page"]', ".places a:not([aria-current])"],
      [".shelf-row[aria-current]", ".shelf-row:not([aria-current])"],
      [
        '.subject [role="tab"][aria-selected="true"]',
        '.subject [role="tab"][aria-selected="false"]',
      ],
      [".heights .Mui-selected", ".heights .MuiToggleButton-root:not(.Mui-selected)"],
    ] as const)
      expect(await colours(page, current), current).not.toBe(await colours(page, other));
    // The bricks are drawn in the system's colours as well: those in question differ from others.
    await typeBefore(page, "Ticket desk", "Our ");
    await expect(page.getByText("Changes 64 pages.")).toBeVisible();
    const drawn = await page.locator(".courses canvas").evaluate((c: HTMLCanvasElement) => {
      const paint = c.getContext("2d");
      const seen = new Set<string>();
      for (let x = 0; x < c.width; x++)
        seen.add(paint?.getImageData(x, Math.round(c.height * 0.7), 1, 1).data.join(",") ?? "");
      return seen.size;
    });
    expect(drawn).toBeGreaterThan(2);
  });

test("Review and a page's outline are put on paper whole", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "Our ");
  await expect(page.getByText("Changes 64 pages.")).toBeVisible();
  await page.keyboard.press("Control+s");
  await expect(differing(page, 64)).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await expect(page.getByRole("heading", { name: "64 pages differ" })).toBeVisible();
  await page.emulateMedia({ media: "print" });
  const names = page.locator(".review .rows-list > li");
  await expect(names, "all of them, not those in view").toHaveCount(64);
  await expect(page.getByRole("banner")).toBeHidden();
  await expect(page.getByRole("complementary")).toBeHidden();
  const beyond = () =>
    page.evaluate(() =>
      [...document.querySelectorAll("main *")]
        .filter(
          (e) =>
            e.scrollHeight > e.clientHeight + 4 &&
            /auto|scroll/.test(getComputedStyle(e).overflowY),
        )
        .filter((e) => e.clientHeight > 0)
        .map((e) => e.className),
    );
  expect(await beyond(), "nothing on paper can be scrolled to").toEqual([]);

  await page.emulateMedia({ media: "screen" });
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/ports/gull-rock.html&tab=outline`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Gull Rock");
  await expect(page.getByText("Port card").first()).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await expect(page.locator("iframe.front")).toBeHidden();
  expect(await beyond()).toEqual([]);
});

test("where less motion is wished for, nothing moves by itself", async ({ page, running }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  await openBlock(page, running, "footer");
  const moving = await page.evaluate(
    () =>
      [...document.querySelectorAll("*")].filter((e) => {
        const { transitionDuration, animationDuration } = getComputedStyle(e);
        return [transitionDuration, animationDuration].some((d) =>
          d.split(",").some((one) => parseFloat(one) > 0.01),
        );
      }).length,
  );
  expect(moving).toBe(0);
});
