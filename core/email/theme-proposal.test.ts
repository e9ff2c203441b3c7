import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { coloursOf } from "../color";
import { DEFAULT_THEME, proposedTheme, ThemeSchema, themePairs } from ".";

const colour = fc
  .integer({ min: 0, max: 0xffffff })
  .map((n) => `#${n.toString(16).padStart(6, "0").toUpperCase()}`);

test("whatever the colours, every pair of the theme can be read, by day and in dark", () => {
  fc.assert(
    fc.property(fc.array(colour, { minLength: 1, maxLength: 6 }), (colours) => {
      const theme = proposedTheme(colours, DEFAULT_THEME);
      expect(ThemeSchema.parse(theme)).toEqual(theme);
      for (const scheme of ["light", "dark"] as const)
        for (const { label, ratio, wanted } of themePairs(theme, scheme))
          expect(ratio, `${scheme} ${label}`).toBeGreaterThanOrEqual(wanted);
    }),
    { numRuns: 500 },
  );
});

test("the most colourful colour is what is pressed", () => {
  const { light } = proposedTheme(["#222222", "#0B6E69", "#E8E4DC"], DEFAULT_THEME);
  expect(light.accent).toBe("#0B6E69");
  expect(light.onAccent).toBe("#FFFFFF");
});

describe("the colours of a picture", () => {
  /** So many pixels of each colour. */
  const pixels = (...runs: [count: number, r: number, g: number, b: number, opacity?: number][]) =>
    new Uint8Array(
      runs.flatMap(([count, r, g, b, opacity = 255]) =>
        Array.from({ length: count }, () => [r, g, b, opacity]).flat(),
      ),
    );

  test("are named by how much there is of them", () => {
    const found = coloursOf(pixels([60, 11, 110, 105], [30, 255, 255, 255], [10, 242, 192, 76]));
    expect(found.map(({ color, share }) => [color, Math.round(share * 100)])).toEqual([
      ["#0B6E69", 60],
      ["#FFFFFF", 30],
      ["#F2C04C", 10],
    ]);
  });

  test("are one where they look alike, and what can be seen through does not count", () => {
    const found = coloursOf(pixels([50, 11, 110, 105], [40, 15, 114, 110], [500, 255, 0, 0, 0]));
    expect(found).toHaveLength(1);
    expect(found[0].share).toBeCloseTo(1);
  });

  test("of a picture that cannot be seen there are none", () =>
    expect(coloursOf(pixels([9, 1, 2, 3, 0]))).toEqual([]));
});
