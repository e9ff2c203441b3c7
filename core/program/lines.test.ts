/** Words as long as so many lines. */
import fc from "fast-check";
import { expect, test } from "vitest";
import { shortenedToLines } from "./lines";

const SENTENCE =
  "Climb to eight feet and crop until the first frost of the year, whatever the summer was like.";

test("words end with a whole one where their lines are full", () => {
  expect(shortenedToLines(SENTENCE, 1, 200, 15)).toBe("Climb to eight feet and crop…");
  expect(shortenedToLines(SENTENCE, 2, 200, 15)).toBe(
    "Climb to eight feet and crop until the first frost of the…",
  );
  expect(shortenedToLines(SENTENCE, 9, 200, 15)).toBe(SENTENCE);
  expect(shortenedToLines("Short.", 1, 200, 15)).toBe("Short.");
  expect(shortenedToLines("  ", 1, 200, 15)).toBe("  ");
});

test("a word that is longer than all lines is broken, and letters of twice the width fill twice the room", () => {
  const one = shortenedToLines("Donaudampfschifffahrtsgesellschaft", 1, 100, 15);
  expect(one).toMatch(/^Donaud\w+…$/);
  expect(shortenedToLines("長い言葉 長い言葉 長い言葉", 1, 150, 15)).toBe("長い言葉 長い言葉…");
});

test("more lines never hold less, and what is kept begins the text", () => {
  fc.assert(
    fc.property(
      fc.lorem({ maxCount: 30 }),
      fc.integer({ min: 1, max: 6 }),
      fc.integer({ min: 60, max: 600 }),
      (text, lines, width) => {
        const [less, more] = [
          shortenedToLines(text, lines, width, 15),
          shortenedToLines(text, lines + 1, width, 15),
        ];
        expect(more.length).toBeGreaterThanOrEqual(less.length);
        expect(text.startsWith(less.replace(/…$/u, ""))).toBe(true);
      },
    ),
  );
});
