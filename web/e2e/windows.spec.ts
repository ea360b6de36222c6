import AxeBuilder from "@axe-core/playwright";
import { execFileSync } from "node:child_process";
import { expect, openBlock, rendering, start, test, typeBefore } from "./bench";
import { amiss, places } from "./places";

/** Windows as they are: a phone, half a screen, a small one and a large one, and 1280 by 800 at
 *  twice the size. */
const windows = [
  [360, 780],
  [768, 800],
  [1280, 800],
  [1920, 1080],
  [640, 400],
] as const;

for (const [width, height] of windows)
  test(`every place is whole in a window of ${width} by ${height}`, async ({ page, running }) => {
    test.slow();
    await page.setViewportSize({ width, height });
    const found: string[] = [];
    for (const place of places) {
      await page.goto(`${running.tool}/ternholm/${place}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expect(page.locator("main [aria-busy=true]:not(iframe)")).toHaveCount(0);
      found.push(...(await amiss(page)).map((what) => `${place}: ${what}`));
    }
    expect(found).toEqual([]);
  });

for (const [width, height, scheme, forced] of [
  [360, 780, "light", "none"],
  [640, 400, "dark", "none"],
  [1280, 800, "dark", "active"],
] as const)
  test(`axe finds nothing at ${width} by ${height}, ${scheme}, colours forced: ${forced}`, async ({
    page,
    running,
  }) => {
    test.slow();
    await page.emulateMedia({ colorScheme: scheme, forcedColors: forced });
    await page.setViewportSize({ width, height });
    const found: string[] = [];
    for (const place of places) {
      await page.goto(`${running.tool}/ternholm/${place}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ iframes: false });
      if (forced === "active")
        found.push(...(await amiss(page)).map((what) => `${place}: ${what}`));
      for (const v of (await axe.analyze()).violations)
        found.push(`${place}: ${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
    }
    expect(found).toEqual([]);
  });

test("on a phone a block is found on the shelf, edited, looked at and saved", async ({
  page,
  running,
}) => {
  await page.setViewportSize({ width: 360, height: 780 });
  await page.goto(`${running.tool}/ternholm/checks`);
  await page.getByRole("button", { name: "Shelf" }).click();
  await page.getByRole("searchbox", { name: "Filter the shelf" }).fill("sidebar");
  await page.getByRole("link", { name: /Sidebar help/ }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Sidebar help" })).toBeVisible();
  await expect(page.getByRole("searchbox", { name: "Filter the shelf" })).toHaveCount(0);
  await page.getByRole("tab", { name: /^Fields/ }).click();
  await page.getByRole("tab", { name: "Markup" }).click();
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("<p>Ring us.</p>");
  await expect(page.locator(".say")).toContainText(/Changes \d+ pages\./);
  await expect(rendering(page).getByText("Ring us.")).toBeAttached();
  await page.getByRole("button", { name: "Save to draft" }).click();
  await expect(page.locator(".draft-state")).toContainText("1 edit");
  await page.getByRole("button", { name: /^Places/ }).click();
  await page.getByRole("menuitem", { name: /^Undo: / }).click();
  await expect(page.locator(".draft-state")).toContainText("0 edits");
});

test("the wall has three heights, chosen for each place and kept", async ({ page, running }) => {
  await openBlock(page, running, "footer");
  const wall = page.getByRole("region", { name: "The wall" });
  const high = async () => (await wall.boundingBox())?.height ?? 0;
  expect(await high()).toBeLessThan(90);
  await page.getByRole("button", { name: "Tall wall" }).click();
  expect(await high()).toBeGreaterThan(400);
  await page.goto(`${running.tool}/ternholm/rules`);
  await expect(page.getByRole("button", { name: "Wall in courses" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await openBlock(page, running, "header");
  await expect(page.getByRole("button", { name: "Tall wall" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("Shift+W");
  await expect.poll(high).toBeLessThan(90);

  // Pulled up it stands in courses, pulled down it is a line again.
  const grip = page.getByRole("button", { name: "Height of the wall" });
  const at = await grip.boundingBox();
  if (!at) throw new Error("there is nothing to pull it by");
  await page.mouse.move(at.x + 400, at.y + 3);
  await page.mouse.down();
  await page.mouse.move(at.x + 400, at.y - 200, { steps: 4 });
  await page.mouse.up();
  expect(await high()).toBeGreaterThan(200);
  for (let i = 0; i < 8; i++) await grip.press("ArrowDown");
  expect(await high()).toBeLessThan(90);
});

test("what changes is brought into sight where it was not, to the side as well", async ({
  page,
  running,
}) => {
  await page.setViewportSize({ width: 1024, height: 800 });
  await openBlock(page, running, "footer");
  await expect(rendering(page).locator("footer.foot")).toBeInViewport();
  const spot = rendering(page).getByText("Ticket desk");
  await expect(spot).not.toBeInViewport();
  await page.getByText("<b>Ticket desk</b>").click();
  await page.keyboard.press("End");
  await page.keyboard.type("<i>Open on Sundays</i>");
  await expect(rendering(page).getByText("Open on Sundays")).toBeInViewport();
  const before = (await rendering(page).getByText("Open on Sundays").boundingBox())?.x;
  await page.keyboard.type("<i>too</i>");
  await expect(rendering(page).getByText("too", { exact: true })).toBeVisible();
  expect((await rendering(page).getByText("Open on Sundays").boundingBox())?.x).toBe(before);
});

test("before and after stand at the same placement, whatever room they get", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await typeBefore(page, "Ticket desk", "Our ");
  await page.getByRole("button", { name: "Look at them" }).click();
  const seen = async () => {
    const frames = page.locator(".peek iframe.front");
    await expect(frames).toHaveCount(2);
    const sides = [];
    for (const frame of await frames.elementHandles()) {
      const inside = await frame.contentFrame();
      sides.push(
        await inside?.evaluate(() => {
          const at = document.querySelector("[data-shelf-lit]")?.getBoundingClientRect();
          return at !== undefined && at.top < innerHeight && at.bottom > 0;
        }),
      );
    }
    return sides;
  };
  await expect.poll(seen).toEqual([true, true]);
  // Come to from outside, what is compared is known only once the edit was asked about.
  await page.reload();
  await expect.poll(seen, "after a reload").toEqual([true, true]);
  for (const height of [560, 1000, 700]) {
    await page.setViewportSize({ width: 1280, height });
    await expect.poll(seen, `in a window ${height} high`).toEqual([true, true]);
  }
});

test("one comes past the bar and the shelf, and sees where the focus is", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "footer");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("link", { name: "Skip to the editor" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.locator(".cm-content")).toBeFocused();
  for (const name of ["Save to draft", "Keyboard", "Review"]) {
    const button = page.getByRole("button", { name }).or(page.getByRole("link", { name }));
    if (name === "Save to draft") {
      await page.keyboard.press("Control+End");
      await page.keyboard.type("<p>One more</p>");
    }
    await expect(button.first()).toBeEnabled();
    await button.first().focus();
    await page.keyboard.press("Shift+Tab");
    await page.keyboard.press("Tab");
    const outline = () =>
      page.evaluate(() => {
        const s = getComputedStyle(document.activeElement ?? document.body);
        return `${s.outlineStyle} ${parseFloat(s.outlineWidth)}`;
      });
    expect(await outline(), name).toBe("solid 2");
  }
});

test("the window is named after what is open, and a server that is gone is told of until it is back", async ({
  page,
}, info) => {
  const serve = ["serve", "--data", info.outputPath("data")];
  execFileSync("../bin/brickshelf", [
    "import",
    ...serve.slice(1),
    "--site",
    "ternholm",
    "../demo/ternholm",
  ]);
  const [first, running] = await start([], serve);
  await openBlock(page, running, "footer");
  await expect(page).toHaveTitle("Footer · Blocks · Ternholm Ferries");
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("<p>Kept</p>");
  first.kill("SIGKILL");
  const gone = page.getByText("The server does not answer.", { exact: true });
  await expect(gone).toBeVisible();
  await page.keyboard.type("<p>here</p>");
  const at = (url: string) => new URL(url).host;
  const [second] = await start(
    ["--addr", at(running.tool), "--site-addr", at(running.site)],
    serve,
  );
  await expect(gone).toHaveCount(0);
  await expect(page.locator(".cm-content")).toContainText("<p>Kept</p><p>here</p>");
  await page.locator(".cm-content").press("Control+s");
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  second.kill("SIGTERM");
});

test("what is long in coming is told, and can be given up", async ({ page, running }) => {
  await page.goto(`${running.tool}/ternholm/rules/notice`);
  let answer: () => void = () => undefined;
  const held = new Promise<void>((done) => (answer = done));
  await page.route("**/operations", async (route) => {
    await held;
    await route.continue().catch(() => undefined); // it may have been given up
  });
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByText("Working out what it changes…")).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped. Nothing was changed.")).toBeVisible();
  await expect(page.getByText("Working out what it changes…")).toHaveCount(0);
  answer();
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(page.getByText(/Changes \d+ pages/)).toBeVisible();
});

test("what changes on a page is told by names, not addresses", async ({ page, running }) => {
  await openBlock(page, running, "season");
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("<i>new</i>");
  await page.getByRole("button", { name: "Look at them" }).click();
  const effects = page.getByLabel("What changes on it");
  await expect(effects).toContainText("Season badge changed in the header menu");
  await expect(effects).not.toContainText("~");
});
