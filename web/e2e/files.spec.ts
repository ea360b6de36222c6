import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import AxeBuilder from "@axe-core/playwright";
import { expect, legend, published, rendering, test } from "./bench";
import { Effort } from "./effort";

const pixel = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAIAAAD91JpzAAAAEElEQVR42mNQSCgAIgYIBQAZDgPBG9i1OAAAAABJRU5ErkJggg==",
  "base64",
);

test("files are put there many at once, what is none is left out, and one of a taken name is asked about", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/files`);
  const input = page.getByLabel("Files to put on the site");
  const list = page.getByRole("list", { name: "Files" });
  await input.setInputFiles([
    { name: "dot.png", mimeType: "image/png", buffer: pixel },
    { name: "fake.png", mimeType: "image/png", buffer: Buffer.from("no picture") },
    { name: "My notes.txt", mimeType: "text/plain", buffer: Buffer.from("one\n") },
  ]);
  await expect(
    page.getByText("is no picture that a browser can show; it is left out"),
  ).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByRole("button", { name: "Put 2 files there" }).click();
  await expect(list).toContainText("dot.png");
  await expect(list).toContainText("2 × 2");
  await expect(list).not.toContainText("fake.png");
  await expect(page.getByText("1 edit waiting")).toBeVisible();

  await input.setInputFiles([
    { name: "My notes.txt", mimeType: "text/plain", buffer: Buffer.from("two\n") },
  ]);
  await page.getByRole("combobox", { name: "One stands there" }).click();
  await page.getByRole("option", { name: "Keep both" }).click();
  await page.getByRole("button", { name: "Put 1 file there" }).click();
  await expect(page.getByRole("region", { name: "The file assets/My-notes-2.txt" })).toBeVisible();
  await list.getByRole("button", { name: /My-notes.txt/ }).click();
  await expect(page.locator(".cm-content")).toContainText("one");
  await page.keyboard.press("Control+z");
});

test("a folder is dropped, with the way to each file in it", async ({ page, running }, info) => {
  const dir = info.outputPath("brought");
  mkdirSync(join(dir, "icons", "small"), { recursive: true });
  writeFileSync(join(dir, "icons", "small", "dot.png"), pixel);
  writeFileSync(join(dir, "read me.txt"), "one\n");
  await page.goto(`${running.tool}/ternholm/files`);
  await expect(page.getByRole("list", { name: "Files" })).toContainText("logo.svg");
  const devtools = await page.context().newCDPSession(page);
  for (const type of ["dragEnter", "dragOver", "drop"] as const)
    await devtools.send("Input.dispatchDragEvent", {
      ...{ type, x: 400, y: 400 },
      data: {
        items: [],
        files: [join(dir, "icons"), join(dir, "read me.txt")],
        dragOperationsMask: 1,
      },
    });
  const coming = page.getByRole("form", { name: "Files that come in" });
  await expect(coming).toContainText("assets/icons/small/dot.png");
  await coming.getByRole("button", { name: "Put 2 files there" }).click();
  const files = page.getByRole("list", { name: "Files" });
  await expect(files).toContainText("read-me.txt");
  await page.goto(`${running.tool}/ternholm/files?path=assets/icons/small/dot.png`);
  await expect(files).toContainText("2 × 2");
});

test("a picture is pasted, wherever one is on the place", async ({ page, running }) => {
  await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.goto(`${running.tool}/ternholm/files`);
  await expect(page.getByRole("list", { name: "Files" })).toContainText("logo.svg");
  await page.evaluate(async (bytes) => {
    const blob = new Blob([Uint8Array.from(bytes)], { type: "image/png" });
    await navigator.clipboard.write([new ClipboardItem({ "image/png": blob })]);
  }, Array.from(pixel));
  await page.keyboard.press("Control+v");
  await page.getByRole("button", { name: "Put 1 file there" }).click();
  await expect(page.getByRole("region", { name: /The file assets\/.*\.png/ })).toContainText(
    "2 × 2",
  );
});

test("what is sent is counted, and can be called back while it is on its way", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/files`);
  await page.getByLabel("Files to put on the site").setInputFiles([
    { name: "large.bin", mimeType: "application/octet-stream", buffer: Buffer.alloc(3 << 20, 7) },
    { name: "small.txt", mimeType: "text/plain", buffer: Buffer.from("one\n") },
  ]);
  const devtools = await page.context().newCDPSession(page);
  const slow = (uploadThroughput: number) =>
    devtools.send("Network.emulateNetworkConditions", {
      ...{ offline: false, latency: 0, downloadThroughput: -1, uploadThroughput },
    });
  await slow(400_000);
  await page.getByRole("button", { name: "Put 2 files there" }).click();
  await expect(page.getByText(/^0 of 2 put there, [0-9.]+ [kM]B of 3\.1 MB sent…$/)).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await slow(-1);
  await expect(page.getByRole("button", { name: "Leave it" })).toBeVisible();
  await expect(page.getByText("0 edits waiting")).toBeVisible();
  await page.getByRole("button", { name: "Put 2 files there" }).click();
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await expect(page.getByRole("list", { name: "Files" })).toContainText("large.bin");
});

test("a file of the site's root is written in place and published there", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/files`);
  await page.getByRole("combobox", { name: "Put files into" }).click();
  await page.getByRole("option", { name: /the site's root/ }).click();
  await page
    .getByLabel("Files to put on the site")
    .setInputFiles([
      { name: "robots.txt", mimeType: "text/plain", buffer: Buffer.from("User-agent: *\n") },
    ]);
  await page.getByRole("button", { name: "Put 1 file there" }).click();
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("Disallow: /freight/");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("2 edits waiting")).toBeVisible();
  await page.getByRole("link", { name: "Review" }).click();
  await page.getByRole("button", { name: /^Publish/ }).click();
  await expect
    .poll(() => published(running, "/robots.txt"))
    .toBe("User-agent: *\nDisallow: /freight/");
});

test("a file says which pages show it; what names it follows, and its deletion says what breaks", async ({
  page,
  running,
}) => {
  await page.goto(`${running.tool}/ternholm/files?path=assets/logo.svg`);
  await expect(page.getByText("63 pages show it or lead to it.")).toBeVisible();
  await expect(legend(page, "linked")).toHaveText("63");
  const bench = page.getByRole("region", { name: "The file assets/logo.svg" });
  await bench.getByRole("button", { name: "Delete" }).click();
  await expect(page.locator(".say")).toContainText(/63 (pages )?break|breaks? on 63|63/);
  await page.getByRole("button", { name: "Leave it" }).click();
  await bench.getByRole("button", { name: "Move" }).click();
  await page.getByRole("textbox", { name: "Path" }).fill("files/brand/mark.svg");
  await page.getByRole("button", { name: "What that changes" }).click();
  await expect(page.locator(".say")).toContainText("Changes 63 pages.");
  await page.getByRole("button", { name: "Move it" }).click();
  await expect(page.getByRole("region", { name: "The file files/brand/mark.svg" })).toBeVisible();
  await page.goto(`${running.tool}/ternholm/pages?doc=pages/about.html`);
  await expect(rendering(page).locator('img[src="/brand/mark.svg"]')).toHaveCount(1);
  await expect
    .poll(() =>
      rendering(page)
        .locator('img[src="/brand/mark.svg"]')
        .evaluate((e: HTMLImageElement) => e.naturalWidth),
    )
    .toBeGreaterThan(0);
});

test("a picture uploaded, and shown in the sidebars of two pages as small as they need it: 7", async ({
  page,
  running,
}) => {
  const large = await page.evaluate(() => {
    const canvas = document.createElement("canvas");
    canvas.width = 1500;
    canvas.height = 1000;
    canvas.getContext("2d")?.fillRect(0, 0, 700, 700);
    return canvas.toDataURL("image/jpeg").split(",")[1] ?? "";
  });
  await page.goto(`${running.tool}/ternholm/files`);
  const e = new Effort(page);
  await e.act(() =>
    page
      .getByLabel("Files to put on the site")
      .setInputFiles([
        { name: "pier.jpg", mimeType: "image/jpeg", buffer: Buffer.from(large, "base64") },
      ]),
  );
  await e.click(page.getByRole("button", { name: "Put 1 file there" }));
  await expect(page.getByRole("region", { name: "The file assets/pier.jpg" })).toBeVisible();
  await e.click(page.getByRole("link", { name: "Show it on pages" }));
  await e.click(page.getByRole("button", { name: "Choose About us /about/" }));
  await e.click(page.getByRole("button", { name: "Choose Contact /contact/" }));
  await expect(page.getByText(/Changes 2 pages\./)).toBeVisible();
  await e.click(page.getByRole("button", { name: "Put it there" }));
  await expect(page.locator(".draft-state")).toContainText("2 pages differ from live");
  expect(e.count).toBeLessThanOrEqual(7);

  await page.goto(`${running.site}/_draft/about/`);
  const shown = page.locator('img[src^="/_shelf/"]');
  await expect(shown).toHaveAttribute("width", "280");
  await expect(shown).toHaveAttribute("height", "187");
  const cost = await page.request.get(`${running.site}${await shown.getAttribute("src")}`);
  expect((await cost.body()).length).toBeLessThan(Buffer.from(large, "base64").length / 2);
  await expect.poll(() => shown.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBe(280);
});
