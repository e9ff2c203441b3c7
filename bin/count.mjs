/** Adds up the results of several test runs and prints one line. A run without a report counts as one failure. */
import { readFileSync } from "node:fs";

let passed = 0;
let failed = 0;
for (const file of process.argv.slice(2)) {
  try {
    const report = JSON.parse(readFileSync(file, "utf8"));
    passed += report.numPassedTests;
    failed += report.numFailedTests;
    // A file that could not even be loaded has no tests of its own to fail.
    failed += report.testResults.filter(
      (suite) => suite.status === "failed" && suite.assertionResults.length === 0,
    ).length;
  } catch {
    failed++;
  }
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
