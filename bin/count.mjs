/**
 * Adds up the results of several test runs: names each test that failed, with the beginning of what it said, and closes
 * with one line of numbers. A run without a report counts as one failure, and so does each other step that failed, named
 * with --step, and a run of tests that failed without any of its tests, named with --run: "0 failed" is said of all.
 */
import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { parseArgs } from "node:util";

/** How much of what a failed test said is repeated here, in lines. */
const SAID = 12;

let passed = 0;
const failures = [];
const { values, positionals } = parseArgs({
  options: {
    step: { type: "string", multiple: true, default: [] },
    run: { type: "string", multiple: true, default: [] },
  },
  allowPositionals: true,
});
for (const file of positionals) {
  let report;
  try {
    report = JSON.parse(readFileSync(file, "utf8"));
  } catch {
    failures.push(`a whole run ended without its report (${file})`);
    continue;
  }
  passed += report.numPassedTests;
  for (const suite of report.testResults) {
    const where = relative(process.cwd(), suite.name);
    const failed = suite.assertionResults.filter((test) => test.status === "failed");
    failures.push(...failed.map((test) => `${where}: ${test.fullName}\n${beginning(test.failureMessages)}`));
    // A file that could not even be loaded has no tests of its own to fail.
    if (suite.status === "failed" && suite.assertionResults.length === 0) {
      failures.push(`${where} could not be loaded\n${beginning([suite.message])}`);
    }
  }
}

if (failures.length === 0) values.step.push(...values.run);
failures.push(...values.step.map((step) => `${step}; what it said stands above`));

function beginning(messages) {
  const lines = messages.join("\n").split("\n").slice(0, SAID);
  return lines.map((line) => `    ${line}`).join("\n");
}

for (const failure of failures) console.log(`\nFailed: ${failure}`);
console.log(`\n${passed} passed, ${failures.length} failed`);
process.exit(failures.length > 0 ? 1 : 0);
