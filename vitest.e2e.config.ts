import { defineConfig } from "vitest/config";

/** The end-to-end tests drive the built program in Chromium, one file after the other. */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  test: {
    include: ["e2e/**/*.test.ts"],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    fileParallelism: false,
  },
});
