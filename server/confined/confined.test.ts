/** What is read confined cannot take the server with it: real processes, and files that mean harm. */
import { execFileSync, spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { documentOf, hostileFiles } from "../intake/hostile";
import { Refusal } from "../refusal";
import { CONFINED } from "../test-world";
import { type Confined, type Limits, openConfined } from "./confined";

const LIMITS: Limits = { ms: 10_000, bytes: 512_000_000, atOnce: 2, idle: 30_000 };
let opened: Confined | undefined;
function open(limits: Partial<Limits> = {}): Confined {
  opened = openConfined(CONFINED, { ...LIMITS, ...limits });
  return opened;
}
afterEach(() => opened?.close());

/** Takes over ten seconds. */
const [SLOW] = hostileFiles();
const slowly = (confined: Confined) => confined.run("file", SLOW.name, SLOW.data);

describe("a file that takes too much is refused in a sentence, and the server answers others meanwhile:", () => {
  let shared: Confined;
  beforeAll(() => {
    shared = openConfined(CONFINED, { ...LIMITS, ms: 1500 });
  });
  afterAll(() => shared.close());
  test.each([...hostileFiles()])("$about", { timeout: 40_000 }, async ({ name, data }) => {
    const delays = monitorEventLoopDelay({ resolution: 5 });
    delays.enable();
    const start = performance.now();
    const outcome = await shared.run("file", name, data).catch((error: unknown) => error);
    delays.disable();
    if (outcome instanceof Error) {
      expect(outcome).toBeInstanceOf(Refusal);
      expect(outcome.message).toMatch(
        /takes (longer|more)|more than one email|could not be read|not valid JSON|no words/,
      );
    } else expect(outcome).toHaveProperty("blocks");
    // Whoever read it here would be held up for as long as that takes; a busy machine holds up a little.
    expect(delays.max / 1e6).toBeLessThan(Math.max(250, (performance.now() - start) / 3));
  });
});

test("what takes longer than it may is given up, and the next is read", { timeout: 40_000 }, async () => {
  const confined = open({ ms: 1500, atOnce: 1 });
  const slow = slowly(confined);
  const next = confined.run("writing", "markdown", "# Beans");
  await expect(slow).rejects.toThrow("It takes longer than 1.5 seconds to read");
  expect((await next).blocks.map(({ type }) => type)).toEqual(["heading"]);
});

test("what takes more memory than it may is given up, and the next is read", {
  timeout: 40_000,
}, async () => {
  const confined = open({ ms: 30_000, bytes: 200_000_000, atOnce: 1 });
  const swelling = confined.run("file", "swelling.docx", documentOf(1_000_000));
  const next = confined.run("file", "one.docx", documentOf(1, "Beans"));
  await expect(swelling).rejects.toThrow("It takes more than 200 MB of memory to read");
  expect((await next).blocks).toHaveLength(1);
});

test("two are read side by side, and one process serves many", { timeout: 40_000 }, async () => {
  const confined = open({ ms: 3000 });
  const slow = slowly(confined).catch(() => "given up");
  const quick = await Promise.race([slow, confined.run("writing", "text", "Beans")]);
  expect(quick).not.toBe("given up");
  expect(await slow).toBe("given up");
});

test("after closing, what is under way and what comes later are refused", async () => {
  const confined = open({ atOnce: 1 });
  const under = slowly(confined);
  const queued = confined.run("writing", "text", "Beans");
  const outcomes = Promise.allSettled([under, queued]);
  await confined.close();
  expect((await outcomes).map(({ status }) => status)).toEqual(["rejected", "rejected"]);
  await expect(confined.run("writing", "text", "Beans")).rejects.toThrow("Septima is stopping");
});

test("when the server is killed in the middle, what it confined goes with it", {
  timeout: 40_000,
}, async () => {
  const script = `
    import { openConfined } from ${JSON.stringify(path.join(process.cwd(), "server/confined/confined.ts"))};
    import { hostileFiles } from ${JSON.stringify(path.join(process.cwd(), "server/intake/hostile.ts"))};
    const confined = openConfined(${JSON.stringify(CONFINED)});
    confined.run("writing", "text", "Beans").then(() => {
      console.log("ready");
      const [slow] = hostileFiles();
      confined.run("file", slow.name, slow.data);
    });`;
  const parent = spawn(process.execPath, ["--import", "tsx", "--input-type=module", "-e", script], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  await once(parent.stdout, "data");
  const children = () =>
    execFileSync("ps", ["-eo", "pid=,ppid=,args="], { encoding: "utf8" })
      .split("\n")
      .map((line) => line.trim().split(/\s+/))
      .filter((parts) => parts.some((part) => part === CONFINED.file));
  const [child] = children().filter(([, ppid]) => Number(ppid) === parent.pid);
  expect(child).toBeDefined();
  parent.kill("SIGKILL");
  await expect.poll(() => children().some(([pid]) => pid === child[0]), { timeout: 2000 }).toBe(false);
});

/** So many brackets around nothing. */
const nested = (depth: number) => JSON.parse("[".repeat(depth) + "]".repeat(depth)) as unknown;

test("what is nested too deep to be passed on is refused, whichever side it fails on, and the next is read", {
  timeout: 60_000,
}, async () => {
  const confined = open({ atOnce: 1 });
  let refused = 0;
  for (const depth of [100, 1000, 2000, 3000, 4000, 20_000, 100_000]) {
    const outcome = await confined.run("answers", nested(depth), { blocks: [] } as never, []).then(
      () => null,
      (error: unknown) => error,
    );
    if (outcome !== null) {
      refused++;
      expect(outcome).toBeInstanceOf(Refusal);
    }
  }
  expect(refused).toBeGreaterThan(1);
  const next = await confined.run("writing", "markdown", "# Beans");
  expect(next.blocks).toHaveLength(1);
});

const childrenOf = (pid: number): number[] =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, "utf8").trim().split(" ").map(Number);

test.runIf(existsSync(`/proc/${process.pid}/task/${process.pid}/children`))(
  "what gets no turn on a busy machine is not given up for it",
  { timeout: 40_000 },
  async () => {
    const before = new Set(childrenOf(process.pid));
    const confined = open({ ms: 700, atOnce: 1 });
    await confined.run("writing", "markdown", "# Beans");
    const [child] = childrenOf(process.pid).filter((pid) => !before.has(pid));
    process.kill(child, "SIGSTOP");
    const answer = confined.run("writing", "markdown", "# Leeks");
    // Twice as long as it may take, in which it does nothing.
    await new Promise((resolve) => setTimeout(resolve, 1400));
    process.kill(child, "SIGCONT");
    expect((await answer).blocks).toHaveLength(1);
  },
);

test("while the program starts, everything may take longer", { timeout: 40_000 }, async () => {
  opened = openConfined(CONFINED, { ...LIMITS, ms: 50, atOnce: 1 }, () => 400);
  const many = Array.from({ length: 3000 }, (_, at) => `# Heading ${at}`).join("\n\n");
  expect((await opened.run("writing", "markdown", many)).blocks.length).toBeGreaterThan(100);
});
