import type { Page } from "@playwright/test";
import { choose, expect, openBlock, rendering, test, type Running } from "./bench";

const headers = { "X-Brick-Shelf": "e2e" };

async function put(page: Page, running: Running, path: string, text: string) {
  const at = `${running.tool}/api/v1/sites/ternholm/documents?path=${path}`;
  const old = await page.request.get(at);
  const saved = await page.request.put(at, {
    headers: {
      ...headers,
      ...(old.ok() ? { "If-Match": old.headers().etag ?? "" } : { "If-None-Match": "*" }),
    },
    data: Buffer.from(text),
  });
  expect(saved.ok(), `${path} ${await saved.text()}`).toBe(true);
}

async function publish(page: Page, running: Running) {
  const answer = await page.request.post(`${running.tool}/api/v1/sites/ternholm/releases`, {
    headers,
    data: { title: "Publish" },
  });
  expect(answer.ok()).toBe(true);
}

/** What behaviours did, as they wrote it down. */
const log = (page: Page) => page.evaluate(() => (window as unknown as { log: string[] }).log);

test("a behaviour runs once for each placement, in order, with its values, and a fault stops no other", async ({
  page,
  running,
}) => {
  const noted = "(window.log ??= []).push";
  await put(
    page,
    running,
    "blocks/lamp.html",
    "---\nbehaviour: {gives: [name, times], needs: [wick]}\nfields: {name: {type: text}, times: {type: number, default: 1}}\n---\n" +
      "text <div class=lamp>@{=name}@{=inner}</div>",
  );
  await put(
    page,
    running,
    "blocks/lamp.js",
    `export default function (root, { values, page }) {
  if (values.name === "bad") throw new Error("no oil");
  ${noted}(\`\${values.name} \${values.times + 1} \${page.url} \${root.className}\`);
  return () => ${noted}("out " + values.name);
}
`,
  );
  await put(page, running, "blocks/wick.html", "<i>w</i>");
  await put(page, running, "blocks/wick.js", `${noted}("wick");\nawait 0;`);
  await put(page, running, "blocks/late.html", "---\nbehaviour: {when: visible}\n---\n<p>late</p>");
  await put(page, running, "blocks/late.js", `export default () => ${noted}("late");`);
  await put(
    page,
    running,
    "blocks/small.html",
    '---\nbehaviour: {media: "(max-width: 500px)"}\n---\n<p>s</p>',
  );
  await put(
    page,
    running,
    "blocks/small.js",
    `export default async () => { ${noted}("small"); return () => ${noted}("wide"); };`,
  );
  await put(
    page,
    running,
    "pages/lamps.html",
    '---\ntitle: Lamps\n---\n<head></head>@{lamp name="a"}@{lamp name="in" times=2 /}@{/lamp}@{lamp name="bad" /}@{lamp name="z" /}' +
      '@{small /}<div style="height: 3000px"></div>@{late /}',
  );
  const detach = await page.request.post(`${running.tool}/api/v1/sites/ternholm/operations`, {
    headers,
    data: { operation: "detach", spots: [{ doc: "pages/lamps.html", address: "main/lamp~3" }] },
  });
  const { change_set, proposal } = (await detach.json()) as {
    change_set: object;
    proposal: { impact: object };
  };
  expect(proposal.impact).toMatchObject({ counts: { changes: 0 } });
  await page.request.post(`${running.tool}/api/v1/sites/ternholm/change-sets`, {
    headers,
    data: change_set,
  });
  await publish(page, running);
  const errors: string[] = [];
  page.on("pageerror", (e) => errors.push(e.message));
  await page.goto(`${running.site}/lamps/`);
  const first = ["wick", "a 2 /lamps/ lamp", "in 3 /lamps/ lamp", "z 2 /lamps/ lamp"];
  await expect.poll(() => log(page)).toEqual(first);
  expect(errors).toEqual(["no oil"]);

  await page.setViewportSize({ width: 400, height: 700 });
  await expect.poll(() => log(page)).toEqual([...first, "small"]);
  await page.setViewportSize({ width: 900, height: 700 });
  await expect.poll(() => log(page)).toEqual([...first, "small", "wide"]);
  await page.evaluate(() => scrollTo(0, 3000));
  await expect.poll(() => log(page)).toEqual([...first, "small", "wide", "late"]);
  await page.evaluate(() => {
    const lamp = document.querySelector(".lamp");
    const again = lamp?.cloneNode(true) as HTMLElement;
    lamp?.remove();
    document.body.append(again);
  });
  await expect
    .poll(() => log(page))
    .toEqual([...first, "small", "wide", "late", "out a", "out in", first[1], first[2]]);
});

test("tabs twice on a page work by keyboard, each by itself", async ({ page, running }) => {
  await page.goto(`${running.site}/timetables/`);
  const lists = page.getByRole("tablist");
  await expect(lists).toHaveCount(2);
  await lists.nth(1).getByRole("tab").first().focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("tab", { name: "Inver" })).toBeFocused();
  await expect(page.getByRole("tab", { name: "Inver" })).toHaveAttribute("aria-selected", "true");
  await expect(page.getByText("At the end of platform 1.")).toBeVisible();
  await expect(page.getByRole("tab", { name: "On foot" })).toHaveAttribute("aria-selected", "true");
  await expect(page.getByText("Be at the gangway")).toBeVisible();
});

test("what fails in a preview is told with block, line and placement", async ({
  page,
  running,
}) => {
  await openBlock(page, running, "tabs");
  await page.getByRole("tab", { name: "Behaviour" }).click();
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("\nconst oil = null;\noil.burn();");
  const told = page.getByRole("status", { name: "What fails here" });
  await expect(told).toContainText("tabs.js, line 44: TypeError: Cannot read properties of null");
  await expect(page.locator(".cm-lint-marker-error, .cm-lintRange-error").first()).toBeVisible();
  await expect(async () => {
    await page.keyboard.press("Control+z");
    await expect(page.locator(".cm-content")).not.toContainText("oil", { timeout: 300 });
  }).toPass();
  await expect(told).toHaveCount(0);

  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("End");
  await page.keyboard.type(
    '\n  if (root.textContent.includes("platform 1")) throw new Error("no tide");',
  );
  await expect(told).toContainText("tabs.js, line 4: no tide at main/tabs~2");
  await expect(rendering(page).getByRole("tablist")).toHaveCount(1);
});

test("a block is looked at by itself, in the states that it has", async ({ page, running }) => {
  await openBlock(page, running, "tabs");
  await choose(page.getByLabel("Page of the rendering"), "by itself");
  const frame = rendering(page);
  await page.getByLabel("Width in pixels").fill("500");
  await expect.poll(() => frame.locator("html").evaluate((e) => e.clientWidth)).toBeLessThan(501);
  await frame.getByRole("tab", { name: "Car", exact: true }).click();
  await expect(frame.getByText("Drive on.")).toBeVisible();
  await expect(frame.locator("header").first()).toBeHidden();

  await openBlock(page, running, "promo");
  await choose(page.getByLabel("Page of the rendering"), "by itself");
  const link = rendering(page).getByRole("link").first();
  const colour = () => link.evaluate((e) => getComputedStyle(e).filter);
  const rest = await colour();
  await choose(page.getByLabel("State it is held in"), "Under the pointer");
  await expect.poll(colour).not.toBe(rest);
  await choose(page.getByLabel("State it is held in"), "At rest");
  await expect.poll(colour).toBe(rest);
});
