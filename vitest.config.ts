import { defineConfig } from "vitest/config";

/** Tests that measure how long others wait: beside them nothing else may run. */
const MEASURING = [
  "server/confined/confined.test.ts",
  "server/sources/hostile.test.ts",
  "server/assistant/assistant.test.ts",
];

const shared = {
  testTimeout: 120_000,
  hookTimeout: 300_000,
  // Files share their modules; none keeps anything in them that another could trip over.
  isolate: false,
  // Nor does what stands in for a global of the browser stay for another test.
  unstubGlobals: true,
  setupFiles: ["vitest.setup.ts"],
};

export default defineConfig({
  resolve: { tsconfigPaths: true },
  test: {
    // As many as there are processors: the default leaves one for watching.
    maxWorkers: "100%",
    projects: [
      {
        extends: true,
        test: {
          ...shared,
          name: "together",
          include: ["{core,server,standins,start,app}/**/*.test.{ts,tsx}"],
          exclude: MEASURING,
          sequence: { groupOrder: 0 },
        },
      },
      {
        extends: true,
        test: {
          ...shared,
          name: "alone",
          include: MEASURING,
          fileParallelism: false,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
