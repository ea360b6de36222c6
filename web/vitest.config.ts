import { defineConfig } from "vitest/config";

export default defineConfig({ test: { testTimeout: 60_000, include: ["src/**/*.test.{ts,tsx}"] } });
