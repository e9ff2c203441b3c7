import fc from "fast-check";
import { expect, test } from "vitest";
import { type Box, cropAround, cropMoved, type Handle } from "./crop";

const share = fc.double({ min: 0, max: 0.9, noNaN: true });
const boxes = fc.tuple(share, share, share, share).map(
  ([x, y, width, height]): Box => ({
    x,
    y,
    width: Math.max(0.05, width * (1 - x)),
    height: Math.max(0.05, height * (1 - y)),
  }),
);
const handles = fc.constantFrom<Handle>("n", "s", "w", "e", "nw", "ne", "sw", "se", "all");
const move = fc.double({ min: -2, max: 2, noNaN: true });
const close = 1e-9;

test("a crop never leaves the picture and never vanishes, however it is drawn", () => {
  fc.assert(
    fc.property(
      boxes,
      handles,
      move,
      move,
      fc.option(fc.double({ min: 0.2, max: 5, noNaN: true })),
      (box, handle, dx, dy, ratio) => {
        const { x, y, width, height } = cropMoved(box, handle, dx, dy, ratio);
        expect(x).toBeGreaterThanOrEqual(-close);
        expect(y).toBeGreaterThanOrEqual(-close);
        expect(x + width).toBeLessThanOrEqual(1 + close);
        expect(y + height).toBeLessThanOrEqual(1 + close);
        expect(Math.min(width, height)).toBeGreaterThan(0);
        if (ratio !== null && handle !== "all") expect(width / height).toBeCloseTo(ratio, 5);
      },
    ),
  );
});

test("what is not drawn stays where it is", () => {
  const box = { x: 0.2, y: 0.2, width: 0.5, height: 0.4 };
  const near = (one: Box, other: Box) => {
    for (const side of ["x", "y", "width", "height"] as const) expect(one[side]).toBeCloseTo(other[side], 9);
  };
  near(cropMoved(box, "e", 0.1, 0.3, null), { ...box, width: 0.6 });
  near(cropMoved(box, "nw", -0.1, 0.1, null), { x: 0.1, y: 0.3, width: 0.6, height: 0.3 });
  near(cropMoved(box, "all", 9, 9, 2), { ...box, x: 0.5, y: 0.6 });
});

test("a ratio is as large as it can be, around what must stay in view", () => {
  expect(cropAround({ x: 0.9, y: 0.5 }, 0.5)).toEqual({ x: 0.5, y: 0, width: 0.5, height: 1 });
  expect(cropAround({ x: 0.5, y: 0.1 }, 4)).toEqual({ x: 0, y: 0, width: 1, height: 0.25 });
});
