import { expect, test } from "vitest";
import { Turns } from "./turns";

/** Frames that come when they are called for, and a clock that goes on by what work takes. */
function page(milliseconds: number) {
  const frames: (() => void)[] = [];
  const done: number[] = [];
  let now = 1000;
  const turns = new Turns(
    (work) => frames.push(work),
    () => now,
  );
  return {
    turns,
    frames,
    done,
    ask: (name: number) =>
      turns.ask(() => {
        now += milliseconds;
        done.push(name);
      }),
    frame() {
      now += 16;
      frames.shift()?.();
    },
    rest: (time: number) => (now += time),
  };
}

test("work is done in the order asked for, as much in a frame as there is time", () => {
  const { done, ask, frame, frames } = page(12);
  for (const name of [1, 2, 3, 4, 5]) ask(name);
  expect(done).toEqual([]);
  frame();
  expect(done).toEqual([1, 2, 3]);
  frame();
  expect(done).toEqual([1, 2, 3, 4, 5]);
  expect(frames).toEqual([]);
});

test("while the page is being scrolled one piece a frame, and more again afterwards", () => {
  const { done, ask, frame, rest, turns } = page(5);
  for (const name of [1, 2, 3, 4, 5, 6]) ask(name);
  turns.scrolled();
  frame();
  turns.scrolled();
  frame();
  expect(done).toEqual([1, 2]);
  rest(200);
  frame();
  expect(done).toEqual([1, 2, 3, 4, 5, 6]);
});

test("what was thought better of is not done, and what is asked for meanwhile has its turn", () => {
  const { done, ask, frame } = page(1);
  const off = [1, 2, 3].map(ask);
  off[0]();
  off[2]();
  frame();
  expect(done).toEqual([2]);
  off[1]();
  ask(4);
  frame();
  expect(done).toEqual([2, 4]);
});
