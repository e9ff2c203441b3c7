import {
  colourfulness,
  contrast,
  DISTINCT,
  lightnessOf,
  READABLE,
  readableOn,
  withLightness,
} from "../color";
import type { Theme } from "./theme";

/**
 * A theme that begins with a brand's colours: the most colourful is what is pressed, the darkest is what is read, and
 * each is moved in lightness until it can be read where it stands, by day and in dark.
 * @param colours of the brand, the most important first; at least one
 * @param base what everything but the colours is taken from
 */
export function proposedTheme(colours: readonly string[], base: Theme): Theme {
  const byColour = [...colours].sort((a, b) => colourfulness(b) - colourfulness(a));
  const accentSeed = byColour[0] ?? base.light.accent;
  const second = byColour.find((one) => one !== accentSeed) ?? accentSeed;
  const darkest = [...colours].sort((a, b) => lightnessOf(a) - lightnessOf(b))[0] ?? accentSeed;
  return { ...base, light: day(accentSeed, second, darkest), dark: night(accentSeed, second) };
}

/** A wash of a colour, so light or dark that it hardly has any. */
const wash = (color: string, lightness: number) => withLightness(mixed(color), lightness);

/** A colour with most of its colour taken out: halfway to the grey of its lightness, twice. */
function mixed(color: string): string {
  const grey = Math.round((lightnessOf(color) / 100) * 255);
  const bytes = [1, 3, 5].map((at) => Number.parseInt(color.slice(at, at + 2), 16));
  return `#${bytes
    .map((byte) =>
      Math.round(grey + (byte - grey) * 0.25)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`.toUpperCase();
}

function day(accentSeed: string, second: string, darkest: string): Theme["light"] {
  const paper = "#FFFFFF";
  const table = wash(second, 94);
  const grounds = [paper, table];
  const accent =
    contrast(accentSeed, paper) >= DISTINCT ? accentSeed : readableOn(accentSeed, [paper], DISTINCT);
  return {
    table,
    paper,
    text: readableOn(wash(darkest, 20), grounds, READABLE),
    soft: readableOn(wash(darkest, 42), grounds, READABLE),
    heading: readableOn(withLightness(darkest, Math.min(22, lightnessOf(darkest))), grounds, READABLE),
    link: readableOn(second, grounds, READABLE),
    accent,
    onAccent: onFace(accent),
    line: wash(second, 85),
  };
}

function night(accentSeed: string, second: string): Theme["dark"] {
  const paper = wash(second, 13);
  const table = wash(second, 9);
  const grounds = [paper, table];
  const accent = readableOn(withLightness(accentSeed, 78), grounds, DISTINCT);
  return {
    table,
    paper,
    text: readableOn(wash(second, 90), grounds, READABLE),
    soft: readableOn(wash(second, 70), grounds, READABLE),
    heading: readableOn(wash(second, 96), grounds, READABLE),
    link: readableOn(withLightness(second, 78), grounds, READABLE),
    accent,
    onAccent: onFace(accent),
    line: wash(second, 28),
  };
}

/** White, a dark of the same hue, or black: the first that can be read, of which black always can where white cannot. */
function onFace(face: string): string {
  return ["#FFFFFF", withLightness(face, 8)].find((color) => contrast(color, face) >= READABLE) ?? "#000000";
}
