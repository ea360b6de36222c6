import AxeBuilder from "@axe-core/playwright";
import { execFileSync } from "node:child_process";
import { appendFileSync, existsSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, rendering, start, test as base, type Running } from "./bench";

/** A program that serves the demo site out of a folder, which another program may edit. */
const test = base.extend<{ kept: { dir: string; run: Running } }>({
  kept: async ({ browserName }, use) => {
    expect(browserName).toBe("chromium"); // a fixture names some other one
    const at = mkdtempSync(join(tmpdir(), "shelf-kept-"));
    const dir = join(at, "ferries");
    const data = ["--data", join(at, "first")];
    execFileSync("../bin/brickshelf", ["import", ...data, "../demo/ternholm"]);
    execFileSync("../bin/brickshelf", ["export", ...data, dir]);
    writeFileSync(join(dir, "README.md"), "Ferries.\n");
    const [child, run] = await start([], ["serve", "--folder", dir, "--data", join(at, "second")]);
    await use({ dir, run });
    const ended = new Promise((done) => child.once("exit", done));
    child.kill("SIGTERM");
    await ended;
  },
});

test("what another program edits in the folder is in the open tab within a second, and undone there too", async ({
  page,
  kept,
}) => {
  const about = join(kept.dir, "pages/about.html");
  const was = readFileSync(about, "utf8");
  await page.goto(`${kept.run.tool}/ferries/pages?doc=pages/about.html`);
  await expect(rendering(page).locator("p.lead")).toBeVisible();
  writeFileSync(about, was.replace("one cat", "two cats"));
  await expect(rendering(page).locator("p.lead")).toContainText("two cats", { timeout: 3000 });
  await expect(page.getByText("1 edit waiting")).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect.poll(() => readFileSync(about, "utf8")).toBe(was);

  // A shortcode's file is in the reference at once.
  writeFileSync(
    join(kept.dir, "shortcodes/horn.js"),
    "/*\ntitle: Horn\nabout: Sounds the horn.\n*/\nfunction shortcode() { return html`<b>Toot</b>`; }\n",
  );
  await page.getByRole("link", { name: "Reference" }).click();
  await expect(page.getByRole("navigation", { name: "What can be called" })).toContainText("Horn");
  await page.goto(`${kept.run.tool}/ferries/pages?doc=pages/about.html`);
  await page.getByRole("tab", { name: "Source" }).click();
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("<p>Saved here.</p>");
  await page.keyboard.press("Control+s");
  await expect.poll(() => readFileSync(about, "utf8")).toContain("<p>Saved here.</p>");
  expect(existsSync(join(kept.dir, "README.md"))).toBe(true);
});

test("what is not valid there is told with its line, and an edit on both sides keeps both", async ({
  page,
  kept,
}) => {
  await page.goto(`${kept.run.tool}/ferries/pages?doc=pages/about.html&tab=source`);
  await expect(page.locator(".cm-content")).toContainText("one cat");
  const menu = join(kept.dir, "menus/main.yaml");
  const good = readFileSync(menu, "utf8");
  appendFileSync(menu, "items: [\n");
  await expect(page.getByText(/menus\/main.yaml:\d+:\d+/)).toBeVisible();
  await expect(page.getByText("The draft stays as it was until it is.")).toBeVisible();
  writeFileSync(menu, good);
  await expect(page.getByText("The draft stays as it was until it is.")).toHaveCount(0);

  // The folder's edit does not fit while the draft's is another one.
  const about = join(kept.dir, "pages/about.html");
  const was = readFileSync(about, "utf8");
  writeFileSync(menu, good + "items: [\n"); // which holds back what comes from the folder
  await expect(page.getByText("The draft stays as it was until it is.")).toBeVisible();
  writeFileSync(about, was.replace("one cat", "three cats"));
  await page.locator(".cm-content").click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("<p>Here.</p>");
  await page.keyboard.press("Control+s");
  await expect(
    page.getByText("pages/about.html was changed in the folder and here."),
  ).toBeVisible();
  writeFileSync(menu, good);
  await page.getByRole("button", { name: "Show both" }).click();
  await expect(page.locator(".both-changed")).toContainText("three cats");
  const open = new AxeBuilder({ page }).include(".both-changed").include(".say");
  expect((await open.analyze()).violations).toEqual([]);
  await page.getByRole("button", { name: "Take the folder's" }).click();
  await expect(page.getByRole("textbox", { name: "Source of pages/about.html" })).toContainText(
    "three cats",
  );
  await expect(page.getByText("was changed in the folder and here.")).toHaveCount(0);
  expect(readFileSync(about, "utf8")).toContain("three cats");
});

test("a picture that was changed on both sides is seen twice before one is taken", async ({
  page,
  kept,
}) => {
  const painted = (color: string) =>
    page.evaluate((fill) => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [120, 80];
      const paint = canvas.getContext("2d");
      if (paint) paint.fillStyle = fill;
      paint?.fillRect(0, 0, 120, 80);
      return canvas.toDataURL("image/png").split(",")[1] ?? "";
    }, color);
  await page.goto(`${kept.run.tool}/ferries/files`);
  const [red, blue] = [await painted("#c00"), await painted("#00c")];
  const menu = join(kept.dir, "menus/main.yaml");
  const good = readFileSync(menu, "utf8");
  writeFileSync(menu, good + "items: [\n"); // which holds back what comes from the folder
  await expect(page.getByText("The draft stays as it was until it is.")).toBeVisible();
  writeFileSync(join(kept.dir, "assets/boat.png"), Buffer.from(red, "base64"));
  await page.getByLabel("Files to put on the site").setInputFiles({
    ...{ name: "boat.png", mimeType: "image/png", buffer: Buffer.from(blue, "base64") },
  });
  await page.getByRole("button", { name: "Put 1 file there" }).click();
  await expect(page.getByText("assets/boat.png was changed in the folder and here.")).toBeVisible();
  writeFileSync(menu, good);
  await page.getByRole("button", { name: "Show both" }).click();
  for (const side of ["assets/boat.png in the folder", "assets/boat.png here"])
    await expect
      .poll(() =>
        page.getByRole("img", { name: side }).evaluate((i: HTMLImageElement) => i.naturalWidth),
      )
      .toBe(120);
  const open = new AxeBuilder({ page }).include(".both-changed").include(".say");
  expect((await open.analyze()).violations).toEqual([]);
  await page.getByRole("button", { name: "Take the one here" }).click();
  await expect(page.getByText("was changed in the folder and here.")).toHaveCount(0);
  expect(readFileSync(join(kept.dir, "assets/boat.png"), "base64")).toBe(blue);
});
