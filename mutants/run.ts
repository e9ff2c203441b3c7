/**
 * Plants small mistakes in the heart of the program, one at a time, and sees whether a test notices: `npm run mutants`.
 *
 * `--count 200` takes so many of them, spread evenly over all; `--seed 1` takes others; `--in core/steps` those of a folder;
 * `--tests core` asks only tests whose path has it; `--again file.json` those that lived in an earlier run. What lived is printed, and written to `--out`.
 */
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { parseArgs } from "node:util";
import { createVitest, type TestModule, type TestSpecification } from "vitest/node";
import { planted, type Site, sitesOf } from "./sites";

const FOLDERS = [
  "core/personal",
  "core/audience",
  "core/steps",
  "core/mime",
  "core/importing",
  "server/dispatch",
  "server/audience",
];
/** So many test files are asked about each mistake, the nearest first: one that lives may die in another. */
const MOST_FILES = 14;

const { values } = parseArgs({
  options: {
    count: { type: "string", default: "200" },
    seed: { type: "string", default: "1" },
    in: { type: "string", default: "" },
    tests: { type: "string", default: "" },
    again: { type: "string" },
    out: { type: "string", default: "mutants.json" },
  },
});

interface Mistake extends Site {
  number: number;
  file: string;
}

const root = process.cwd();
const files = FOLDERS.flatMap((folder) =>
  readdirSync(folder, { recursive: true, encoding: "utf8" })
    .filter((name) => name.endsWith(".ts") && !/\.test\.ts$|(^|\/)test-|hostile/.test(name))
    .map((name) => path.join(folder, name))
    .sort(),
);
const first = new Map<string, number>();
const all: Mistake[] = [];
for (const file of files) {
  first.set(file, all.length);
  for (const site of sitesOf(file, readFileSync(file, "utf8")))
    all.push({ ...site, file, number: all.length });
}

/** Some of them, evenly spread: every so-manieth from a place that the seed says. */
function chosen(): Mistake[] {
  if (values.again) {
    const lived = JSON.parse(readFileSync(values.again, "utf8")) as Mistake[];
    const same = (one: Mistake, other: Mistake) =>
      one.file === other.file && one.before === other.before && one.after === other.after;
    return all.filter((one) => lived.some((other) => same(one, other)));
  }
  const among = all.filter(({ file }) => file.startsWith(values.in));
  const step = Math.max(1, among.length / Number(values.count));
  const offset = (Number(values.seed) * 0.618034 * step) % step;
  return Array.from(
    { length: Math.min(among.length, Number(values.count)) },
    (_, at) => among[Math.floor(offset + at * step)],
  );
}

const scratch = mkdtempSync(path.join(tmpdir(), "septima-mutants-"));
const passedFile = path.join(scratch, "passed");
writeFileSync(passedFile, "");
const vitest = await createVitest(
  "test",
  {
    config: false,
    watch: false,
    bail: 1,
    reporters: [{}],
    include: ["{core,server,standins}/**/*.test.ts"],
    // They measure how long others wait, and are about nothing here.
    exclude: ["server/{confined,sources,assistant}/**"],
    setupFiles: [path.join(root, "mutants/setup.ts")],
    isolate: false,
    maxWorkers: "100%",
    testTimeout: 120_000,
    hookTimeout: 300_000,
  },
  {
    resolve: { tsconfigPaths: true },
    plugins: [
      {
        name: "planted-mistakes",
        enforce: "pre",
        transform(code: string, id: string) {
          const file = path.relative(root, id.split("?")[0]);
          const number = first.get(file);
          return number === undefined ? null : { code: planted(file, code, number), map: null };
        },
      },
    ],
  },
);

async function run(specs: TestSpecification[], on: number, passed: string): Promise<readonly TestModule[]> {
  vitest.provide("planted", on);
  vitest.provide("passed", passed);
  const { testModules } = await vitest.runTestSpecifications(specs, false);
  vitest.state.filesMap.clear();
  return testModules;
}
const failed = (modules: readonly TestModule[]) => modules.some((one) => !one.ok());

const say = (what: string) => process.stdout.write(`${what}\n`);
const specs = (await vitest.globTestSpecifications()).filter(({ moduleId }) =>
  moduleId.includes(values.tests),
);
say(`${all.length} places in ${files.length} files; first all tests, to see which of them each test passes`);
const healthy = await run(specs, -1, passedFile);
if (failed(healthy)) {
  const why = healthy.flatMap((one) => [
    ...one.errors(),
    ...[...one.children.allTests("failed")].flatMap((test) => test.result().errors ?? []),
  ]);
  throw new Error(
    `Tests fail without any mistake: ${why.map(({ message, stack }) => `${message} ${stack}`).join("\n")}`,
  );
}
const passedBy = new Map<number, string[]>();
for (const line of readFileSync(passedFile, "utf8").trim().split("\n")) {
  const { test, passed } = JSON.parse(line) as { test: string; passed: number[] };
  for (const number of passed) passedBy.set(number, [...(passedBy.get(number) ?? []), test]);
}
const took = new Map(healthy.map((one) => [one.moduleId, one.diagnostic().duration]));

/** How near a test file is to a file: beside it first, then by how long it takes. */
const distance = (test: string, file: string) =>
  (path.dirname(path.relative(root, test)) === path.dirname(file) ? 0 : 100_000) + (took.get(test) ?? 0);

const lived: Mistake[] = [];
const score = new Map<string, { died: number; lived: number }>();
const list = chosen();
for (const [at, mistake] of list.entries()) {
  const tests = (passedBy.get(mistake.number) ?? [])
    .sort((a, b) => distance(a, mistake.file) - distance(b, mistake.file))
    .slice(0, MOST_FILES);
  let died = false;
  for (let from = 0; from < tests.length && !died; from += 4) {
    const some = tests.slice(from, from + 4);
    died = failed(
      await run(
        specs.filter(({ moduleId }) => some.includes(moduleId)),
        mistake.number,
        "",
      ),
    );
  }
  const folder = FOLDERS.find((one) => mistake.file.startsWith(`${one}/`)) as string;
  const known = score.get(folder) ?? { died: 0, lived: 0 };
  known[died ? "died" : "lived"]++;
  score.set(folder, known);
  if (!died) {
    lived.push(mistake);
    writeFileSync(values.out, JSON.stringify(lived, null, 2));
    say(
      `${at + 1}/${list.length} lives: ${mistake.file}:${mistake.line} (${tests.length} files)\n    ${mistake.before.slice(0, 200)}\n -> ${mistake.after.slice(0, 200) || "(left out)"}`,
    );
  }
}
for (const [folder, { died, lived: alive }] of score)
  say(`${folder}: ${died} of ${died + alive} died (${Math.round((100 * died) / (died + alive))} %)`);
say(
  `${list.length - lived.length} of ${list.length} died (${Math.round((100 * (list.length - lived.length)) / list.length)} %)`,
);
await vitest.close();
rmSync(scratch, { recursive: true, force: true });
process.exit(0);
