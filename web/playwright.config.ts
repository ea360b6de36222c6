import { defineConfig } from "@playwright/test";

export const chromium = {
  executablePath: "/usr/bin/chromium",
  args: [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

export default defineConfig({
  testDir: "e2e",
  testMatch: "*.spec.ts",
  timeout: 120_000,
  expect: { timeout: 30_000 },
  workers: 2,
  retries: process.env.CI ? 2 : 0,
  reporter: [["list"]],
  use: { viewport: { width: 1280, height: 800 }, launchOptions: chromium, colorScheme: "light" },
});
