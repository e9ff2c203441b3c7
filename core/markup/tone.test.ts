import { expect, test } from "vitest";
import { contrast } from "../color";
import { DEFAULT_THEME, FILL_ROLES, FillSchema, THEMES } from "../email";
import { face, filled, ground, ink, lightInk } from "./tone";

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

test.each(THEMES.map((theme) => [theme.name, theme] as const))(
  "on each colour of the theme that a part can stand on, words can be read by day and in dark: %s",
  (_name, theme) => {
    for (const role of FILL_ROLES) {
      const { color, inside } = ground(role, "paper", inTheme(theme));
      expect(color).toBe(theme.light[role]);
      expect(inside.ground).toEqual(filled(role, theme));
      for (const words of ["text", "soft", "heading", "link"] as const) {
        expect(
          contrast(ink(undefined, words, inside).color, color),
          `${words} on ${role}`,
        ).toBeGreaterThanOrEqual(4.5);
        expect(
          contrast(theme.dark.text, inside.ground.dark),
          `${words} on ${role} in dark`,
        ).toBeGreaterThanOrEqual(4.5);
      }
    }
    // What stands around the email has a dark colour of its own, which a part on it takes too.
    expect(filled("table", theme).dark).toBe(theme.dark.table);
  },
);

test("a part in a strong colour says its words in the theme’s words for buttons", () => {
  const market = THEMES.find(({ id }) => id === "market")!;
  const { inside } = ground("accent", "paper", inTheme(market));
  expect(ink(undefined, "text", inside).color).toBe(market.light.onAccent);
});

test("a part stands on a colour or on a role, and on nothing else", () => {
  for (const fill of ["#24463C", "table", "accent", "heading"]) expect(FillSchema.parse(fill)).toBe(fill);
  for (const fill of ["paper", "red", "#123", ""]) expect(FillSchema.safeParse(fill).success).toBe(false);
});
