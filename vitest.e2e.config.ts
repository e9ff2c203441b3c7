import { defineConfig } from "vitest/config";

/**
 * The end-to-end tests drive the built program in Chromium, two files side by side: each has a program of its own, with
 * its own data and port. The demo's data is made once and copied.
 */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  test: {
    include: ["e2e/**/*.test.ts"],
    globalSetup: ["e2e/demo-copy.ts"],
    testTimeout: 300_000,
    hookTimeout: 300_000,
    maxWorkers: 2,
  },
});
