import { expect, test } from "vitest";
import { contrast } from "../color";
import { DEFAULT_THEME, THEMES } from "../email";
import { face, ink, lightInk } from "./tone";

const paper = { light: "#FFFFFF", dark: "#1F1F24" };
const inTheme = (theme = DEFAULT_THEME, ground = paper) => ({ theme, ground, tones: new Set<string>() });

test("words of the designer’s own stay in light, unless nobody could see them", () => {
  // Pale on purpose.
  expect(lightInk("#A0A0A0", paper)).toBe("#A0A0A0");
  expect(ink("#A0A0A0", "text", inTheme()).color).toBe("#A0A0A0");
  // Chosen on white, and now on dark green.
  const green = { light: "#24463C", dark: "#15291F" };
  const moved = ink("#7A1F1F", "text", inTheme(DEFAULT_THEME, green)).color;
  expect(moved).toBe(lightInk("#7A1F1F", green));
  expect(contrast(moved, green.light)).toBeGreaterThanOrEqual(4.5);
});

test("the theme’s face changes places with its words where it would drown", () => {
  const greenhouse = THEMES.find(({ id }) => id === "greenhouse")!;
  const { accent, onAccent } = greenhouse.light;
  expect(face(undefined, inTheme(greenhouse, { light: greenhouse.light.paper, dark: "#15291F" })).color).toBe(
    accent,
  );
  const { color, inside } = face(undefined, inTheme(greenhouse, { light: "#FFF6E0", dark: "#2A2416" }));
  expect(color).toBe(onAccent);
  expect(contrast(ink(undefined, "onAccent", inside).color, color)).toBeGreaterThanOrEqual(4.5);
});
