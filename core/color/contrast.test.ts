import { expect, test } from "vitest";
import { THEMES } from "../email";
import { contrast } from "./contrast";

test("contrast as WCAG reckons it, whichever colour comes first", () => {
  expect(contrast("#000000", "#FFFFFF")).toBeCloseTo(21, 5);
  expect(contrast("#FFFFFF", "#FFFFFF")).toBe(1);
  expect(contrast("#777777", "#FFFFFF")).toBeCloseTo(4.48, 2);
  expect(contrast("#7D2248", "#FFFFFF")).toBe(contrast("#FFFFFF", "#7D2248"));
});

test.each(THEMES.map((theme) => [theme.name, theme] as const))(
  "every text of the theme %s can be read, in light and dark",
  (_name, { light, dark }) => {
    for (const palette of [light, dark]) {
      for (const color of [palette.text, palette.soft, palette.heading, palette.link]) {
        expect(contrast(color, palette.paper)).toBeGreaterThanOrEqual(4.5);
      }
      expect(contrast(palette.onAccent, palette.accent)).toBeGreaterThanOrEqual(4.5);
    }
  },
);
