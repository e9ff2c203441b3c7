import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** The longest flows: begun first, so that none is still going on by itself when all others have ended. */
const LONGEST = [
  "walk",
  "crash",
  "workers",
  "compose",
  "trouble",
  "composing",
  "tools",
  "starting",
  "pictures",
  "brand",
];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification) => {
      const at = LONGEST.findIndex((name) => moduleId.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONGEST.length : at;
    };
    return [...files].sort((a, b) => rank(a) - rank(b));
  }
}

/**
 * The end-to-end tests drive the built program in Chromium, two files side by side: each has a program of its own, with
 * its own data and port. The demo's data is made once and copied.
 */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  test: {
    include: ["e2e/**/*.test.ts"],
    globalSetup: ["e2e/demo-copy.ts"],
    // A machine that others use, too, may take six times as long.
    testTimeout: 600_000,
    hookTimeout: 600_000,
    maxWorkers: 2,
    sequence: { sequencer: LongestFirst },
  },
});
