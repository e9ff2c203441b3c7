import { expect, test } from "vitest";
import type { Place } from "~/core/compose";
import { landingLines, nearestLanding } from "./landing";

const boxes: Record<string, { left: number; top: number; right: number; bottom: number }> = {
  section: { left: 0, top: 0, right: 600, bottom: 300 },
  row: { left: 0, top: 0, right: 600, bottom: 200 },
  left: { left: 0, top: 0, right: 290, bottom: 200 },
  right: { left: 310, top: 0, right: 600, bottom: 200 },
  a: { left: 0, top: 0, right: 290, bottom: 80 },
  b: { left: 0, top: 100, right: 290, bottom: 200 },
};
const children: Record<string, string[]> = { section: ["row"], left: ["a", "hidden", "b"], right: [] };
const places: Place[] = [
  { parent: "section", index: 0, wants: "row" },
  { parent: "left", index: 0, wants: "block" },
  { parent: "left", index: 1, wants: "block" },
  { parent: "left", index: 3, wants: "block" },
  { parent: "right", index: 0, wants: "block" },
  { parent: "section", index: 1, wants: "row" },
  { parent: "gone", index: 0, wants: "block" },
];
const lines = landingLines(
  places,
  (parent) => children[parent ?? ""] ?? [],
  (id) => boxes[id ?? ""] ?? null,
);
const at = (x: number, y: number) => nearestLanding(lines, x, y)?.place;

test("lines stand between what is drawn, skipping what this reader does not get", () => {
  expect(lines.map((line) => line.y)).toEqual([0, 0, 90, 200, 100, 200]);
});

test("the nearest place wins, columns before rows, and far away there still is one", () => {
  expect(at(100, 95)).toEqual(places[2]);
  expect(at(100, 2)).toEqual(places[1]);
  expect(at(450, 120)).toEqual(places[4]);
  expect(at(300, 260)).toEqual(places[3]);
  expect(at(-500, -500)).toEqual(places[1]);
  expect(nearestLanding([], 0, 0)).toBeNull();
});
