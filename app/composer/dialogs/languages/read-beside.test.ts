import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { sampleEmail } from "~/core/render/sample";
import { XliffError } from "~/core/translation";
import { readBeside } from "./read-beside";
import type { Answered } from "./reading";

/** A process beside the page that answers what it is told to, or never. */
class Beside {
  static last: Beside;
  onmessage?: (event: { data: Answered }) => void;
  onerror?: () => void;
  ended = false;
  constructor() {
    Beside.last = this;
  }
  postMessage(): void {}
  terminate(): void {
    this.ended = true;
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("Worker", Beside);
});
afterEach(() => void vi.useRealTimers());

test("a file from translators that takes too long is given up, and nothing goes on reading it", async () => {
  const read = readBeside("<xliff/>", sampleEmail(1));
  const refused = expect(read).rejects.toThrow("longer than 10 seconds");
  await vi.advanceTimersByTimeAsync(9_999);
  expect(Beside.last.ended).toBe(false);
  await vi.advanceTimersByTimeAsync(1);
  await refused;
  expect(Beside.last.ended).toBe(true);
});

test("what is wrong with it is said; a process that dies says so, too", async () => {
  const wrong = readBeside("x", sampleEmail(1));
  Beside.last.onmessage?.({ data: { problem: "It is no XLIFF." } });
  await expect(wrong).rejects.toThrow(new XliffError("It is no XLIFF."));
  const dead = readBeside("x", sampleEmail(1));
  Beside.last.onerror?.();
  await expect(dead).rejects.toThrow("could not be read");
  expect(Beside.last.ended).toBe(true);
});
