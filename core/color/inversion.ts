import { lightnessOf, withLightness } from "./lightness";
import { remembering } from "./memory";

/**
 * What mail programs with a dark mode of their own make of colours: lightness turned round, hue kept. White becomes the
 * dark grey that such programs show, not black. Partial inversion leaves mid-tones and what is dark or light already;
 * full inversion turns everything.
 */
export type Inversion = "partial" | "full";

/** As dark as grounds get. */
const FLOOR = 8;
const LIGHT_GROUND = 60;
const DARK_TEXT = 55;

const turned = remembering((color) =>
  withLightness(color, FLOOR + ((100 - lightnessOf(color)) * (100 - FLOOR)) / 100),
);

/** What stands behind words, after inversion. */
export function invertedGround(color: string, inversion: Inversion): string {
  return inversion === "full" || lightnessOf(color) >= LIGHT_GROUND ? turned(color) : color;
}

/** Words and lines, after inversion. */
export function invertedText(color: string, inversion: Inversion): string {
  return inversion === "full" || lightnessOf(color) <= DARK_TEXT ? turned(color) : color;
}
