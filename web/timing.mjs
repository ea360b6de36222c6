// Prints what the program takes to start and the tool in a browser, in the rows of
// `make bench`: on the demo site, and on a generated one of 10,000 pages. Times are medians.
import { chromium } from "@playwright/test";
import { execFileSync, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";

const program = "../bin/brickshelf";
const flags = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];
const free = ["--addr", "127.0.0.1:0", "--site-addr", "127.0.0.1:0"];

const row = (what, ms, reach) =>
  console.log(`${what.padEnd(58)} ${`${ms.toFixed(1)} ms`.padStart(14)}   ${reach}`);
const median = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)];

/** Starts the program and gives the address of the tool. */
async function serve(...args) {
  const child = spawn(program, [...args, ...free], { stdio: ["ignore", "pipe", "ignore"] });
  for await (const line of createInterface({ input: child.stdout })) {
    const url = /http:\/\/\S+/.exec(line)?.[0];
    if (url) return [child, url.replace(/\/$/, "")];
  }
  throw new Error(`${program} ${args.join(" ")} ended before it served anything`);
}

/** Starts the program so often and tells how long it takes until the tool's address
 *  answers, and until it has told all pages of a site. */
async function starting(data, times) {
  const [first, all] = [[], []];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    const [child, address] = await serve("serve", "--data", data);
    await (await fetch(address)).text();
    first.push(performance.now() - start);
    await (await fetch(`${address}/api/v1/sites/large`)).text();
    all.push(performance.now() - start);
    const ended = new Promise((done) => child.once("exit", done));
    child.kill("SIGTERM");
    await ended;
  }
  return [median(first), median(all)];
}

/** Opens a block so often with nothing cached and tells how long it takes until it can
 *  be edited and the wall stands. Chromium loads two pages of its own with each window,
 *  for a second on a core: settled is how long they have for that before, in ms. */
async function opening(browser, address, times, settled) {
  const all = [];
  for (let i = 0; i < times; i++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.waitForTimeout(settled);
    const start = performance.now();
    await page.goto(address);
    await page.locator(".cm-content").waitFor();
    await page.locator(".brick-cursor").waitFor();
    all.push(performance.now() - start);
    await context.close();
  }
  return median(all);
}

/** Types into a block that all pages show and tells how long the wall takes to be
 *  drawn, and how long it is from a key to the new count. */
async function typing(browser, address) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(address);
  await page.locator(".cm-content").waitFor();
  await page.locator(".brick-cursor").waitFor();
  await page.getByRole("link", { name: /^Checks( \d+)?$/ }).waitFor({ timeout: 120_000 }); // the first check of all pages is done
  await page.locator(".cm-line").last().click();
  await page.keyboard.press("Control+End");
  const counts = [];
  for (let i = 0; i < 9; i++) {
    await page.evaluate(() => {
      performance.clearMeasures();
      globalThis.painted = new Promise((done) =>
        new PerformanceObserver((list, o) => {
          o.disconnect();
          done(list.getEntries()[0].startTime + list.getEntries()[0].duration);
        }).observe({ type: "measure" }),
      );
      addEventListener("keydown", () => (globalThis.pressed = performance.now()), {
        once: true,
        capture: true,
      });
    });
    await page.keyboard.type("x");
    counts.push(await page.evaluate(async () => (await globalThis.painted) - globalThis.pressed));
  }
  const paints = await page.evaluate(async () => {
    const all = [];
    const filter = document.querySelector(".legend [data-state]");
    for (let i = 0; i < 15; i++) {
      performance.clearMeasures();
      filter.click();
      await new Promise((done) => setTimeout(done, 200));
      all.push(performance.getEntriesByName("wall").at(-1)?.duration ?? 0);
    }
    return all;
  });
  await page.close();
  return [median(counts), median(paints)];
}

const dir = mkdtempSync(join(tmpdir(), "timing-"));
const running = [];
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags });
try {
  execFileSync(program, ["generate", join(dir, "site")], { stdio: "ignore" });
  execFileSync(
    program,
    ["import", "--data", join(dir, "data"), "--site", "large", join(dir, "site")],
    { stdio: "ignore" },
  );
  const [first, all] = await starting(join(dir, "data"), 3);
  row("from the program's start to its first answer", first, "300 ms");
  row("and to the overview of 10000 pages", all, "1000 ms");
  const [demo, small] = await serve("demo");
  running.push(demo);
  const [large, big] = await serve("serve", "--data", join(dir, "data"));
  running.push(large);
  row(
    "a block of the demo opened in the browser, usable",
    await opening(browser, `${small}/ternholm/blocks/footer`, 9, 2500),
    "1500 ms",
  );
  row(
    "the same together with a window of the browser",
    await opening(browser, `${small}/ternholm/blocks/footer`, 5, 0),
    "",
  );
  row(
    "a block of a site of 10000 pages opened, usable",
    await opening(browser, `${big}/large/blocks/header`, 5, 2500),
    "",
  );
  const [count, paint] = await typing(browser, `${big}/large/blocks/header-plain`);
  row("from a key to the counts and the wall, 10000 pages", count, "100 ms");
  row("the wall of 10000 bricks drawn anew", paint, "50 ms");
} finally {
  await browser.close();
  for (const child of running) child.kill("SIGTERM");
  rmSync(dir, { recursive: true, force: true });
}
