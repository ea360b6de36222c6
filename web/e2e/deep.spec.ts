import { execFileSync } from "node:child_process";
import type { ChildProcess } from "node:child_process";
import { mkdirSync } from "node:fs";
import { expect, start, test as base, type Running } from "./bench";
import { amiss } from "./places";

/** The built program serving the generated site of many blocks, rules and sections, for all tests. */
const test = base.extend<object, { deep: Running }>({
  deep: [
    async ({ browserName }, use, info) => {
      const dir = info.project.outputDir;
      const made = `${dir}/${browserName}-deep-${info.workerIndex}`;
      mkdirSync(made, { recursive: true });
      execFileSync("../bin/brickshelf", ["generate", "--deep", "--pages", "600", `${made}/site`]);
      execFileSync("../bin/brickshelf", [
        "import",
        "--data",
        `${made}/data`,
        "--site",
        "deep",
        `${made}/site`,
      ]);
      const [child, running]: [ChildProcess, Running] = await start(
        [],
        ["serve", "--data", `${made}/data`],
      );
      await use(running);
      const ended = new Promise((done) => child.once("exit", done));
      child.kill("SIGTERM");
      await ended;
    },
    { scope: "worker" },
  ],
});

const places = [
  "pages",
  "pages?tab=pages",
  "rules",
  "roll-out",
  "layouts",
  "menus",
  "files",
  "site",
  "reference",
  "checks",
  "review",
];

for (const [width, height] of [
  [360, 780],
  [1280, 800],
] as const)
  test(`a site of 300 blocks, 400 rules and 200 sections is whole at ${width} by ${height}`, async ({
    page,
    deep,
  }) => {
    test.slow();
    await page.setViewportSize({ width, height });
    await page.goto(`${deep.tool}/deep/blocks`);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    const found: string[] = [];
    for (const place of places) {
      await page.goto(`${deep.tool}/deep/${place}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expect(page.locator("main [aria-busy=true]:not(iframe)")).toHaveCount(0);
      const heading = await page.getByRole("heading", { level: 1 }).boundingBox();
      if ((heading?.width ?? 0) < 40) found.push(`${place}: its heading has collapsed`);
      found.push(...(await amiss(page)).map((what) => `${place}: ${what}`));
    }
    expect(found).toEqual([]);
  });

test("its shelf folds, is put in another order and shows pictures, which is kept", async ({
  page,
  deep,
}) => {
  await page.goto(`${deep.tool}/deep/checks`);
  const shelf = page.getByRole("navigation", { name: "Blocks" });
  const rows = shelf.locator(".shelf-row");
  const site = await page.request.get(`${deep.tool}/api/v1/sites/deep`);
  const all = ((await site.json()) as { blocks: unknown[] }).blocks.length;
  await expect(rows).toHaveCount(all);
  const plank = shelf.locator(".plank button").first();
  await plank.click();
  await expect(plank).toHaveAttribute("aria-expanded", "false");
  await expect.poll(() => rows.count()).toBeLessThan(all);
  await page.reload();
  await expect(plank).toHaveAttribute("aria-expanded", "false");
  await plank.click();
  await expect(rows).toHaveCount(all);

  const menu = page.getByRole("button", { name: "Order of the shelf" });
  await menu.click();
  await page.getByRole("menuitemradio", { name: /use/i }).click();
  await page.keyboard.press("Escape");
  const uses = async () =>
    (await shelf.locator("div:first-child > .shelf-row > span[aria-label]").allTextContents()).map(
      Number,
    );
  await expect
    .poll(async () => {
      const now = await uses();
      return now.length > 1 && now.every((n, i) => i === 0 || n <= (now[i - 1] ?? 0));
    })
    .toBe(true);
  await menu.click();
  await page.getByRole("menuitemcheckbox", { name: /pictures/i }).click();
  await page.keyboard.press("Escape");
  await expect(shelf.locator("iframe").first()).toBeVisible();
  await page.reload();
  await expect(shelf.locator("iframe").first()).toBeVisible();
});

test("its wall folds into a line for each section, and comes closer to one", async ({
  page,
  deep,
}) => {
  await page.goto(`${deep.tool}/deep/pages`);
  await page.getByRole("button", { name: "Tall wall" }).click();
  const wall = page.getByRole("region", { name: "The wall" });
  const names = wall.locator(".course-name");
  await expect(names.nth(5)).toBeVisible();
  const labels = await names.allTextContents();
  expect(new Set(labels).size, "names that begin alike are told apart").toBe(labels.length);
  await wall.locator(".brick-cursor").focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("+");
  await expect(wall.getByLabel(/^Leave /)).toBeVisible();
  await expect.poll(() => names.count()).toBeLessThan(labels.length);
  await page.keyboard.press("-");
  await expect(names.nth(5)).toBeVisible();
});
