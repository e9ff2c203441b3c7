/**
 * Checks docs/capabilities.md against the results of the tests: every test that a line names as its proof must exist
 * and have passed. Prints how many lines there are, and how many have no proof. With one report only (bin/test quick)
 * proofs by a browser are taken at their word.
 *
 * A capability is a line that begins with "- "; below it stand its proofs, each as "  proof: <file>: <words of its name>".
 */
import { readFileSync } from "node:fs";
import path from "node:path";

const [list, ...reports] = process.argv.slice(2);
const tests = reports.flatMap((report) =>
  JSON.parse(readFileSync(report, "utf8")).testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.map(({ fullName, status }) => ({
      file: path.relative(process.cwd(), name),
      name: fullName,
      status,
    })),
  ),
);

/** Whether tests that need a PostgreSQL server could not be run: it is said, and no fault. */
const unserved = process.env.SEPTIMA_NO_SERVER === "1" || reports.length < 2;

let capability = null;
const capabilities = [];
const faults = [];
for (const [index, line] of readFileSync(list, "utf8").split("\n").entries()) {
  if (line.startsWith("- ")) {
    capability = { line: index + 1, words: line.slice(2), proofs: 0 };
    capabilities.push(capability);
  }
  const proof = /^ {2}proof: (\S+): (.+)$/.exec(line);
  if (/^\s*proof\b/.test(line) && (!proof || !capability))
    faults.push(`line ${index + 1} is no proof as it is written`);
  if (!proof || !capability) continue;
  capability.proofs++;
  const [, file, words] = proof;
  if (file.startsWith("e2e/") && reports.length < 2) continue;
  const found = tests.filter((test) => test.file === file && test.name.includes(words));
  if (found.length === 0) faults.push(`line ${index + 1}: ${file} has no test “${words}”`);
  for (const test of found)
    if (test.status === "skipped" && unserved) console.log(`line ${index + 1}: “${test.name}” was skipped`);
    else if (test.status !== "passed")
      faults.push(`line ${index + 1}: ${file} “${test.name}” is ${test.status}`);
}
for (const fault of faults) console.log(fault);
const bare = capabilities.filter(({ proofs }) => proofs === 0);
for (const { line, words } of bare) console.log(`line ${line} has no proof: ${words}`);
console.log(`${capabilities.length} capabilities, ${bare.length} without proof`);
process.exit(faults.length > 0 || capabilities.length === 0 ? 1 : 0);
