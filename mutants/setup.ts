/** In each test file of a run with planted mistakes: which of them is on, and which were passed by. */
import { appendFileSync } from "node:fs";
import { afterAll, beforeAll, expect, inject } from "vitest";

declare module "vitest" {
  interface ProvidedContext {
    /** The number of the mistake that is on; -1 for none. */
    planted: number;
    /** Where what was passed by is written down; empty where nobody asks. */
    passed: string;
  }
}

/** So often places may be passed in one file before it is taken for a loop without end. */
const ENDLESS = 30_000_000;

let passes = 0;
const passed = new Set<number>();
const on = inject("planted");
const file = inject("passed");

Object.assign(globalThis, {
  __planted:
    file === ""
      ? (number: number) => {
          if (++passes > ENDLESS) throw new Error("a loop without end");
          return number === on;
        }
      : (number: number) => {
          passed.add(number);
          return false;
        },
});

beforeAll(() => {
  passes = 0;
  passed.clear();
});
afterAll(() => {
  const { testPath } = expect.getState();
  if (file !== "") appendFileSync(file, `${JSON.stringify({ test: testPath, passed: [...passed] })}\n`);
});
