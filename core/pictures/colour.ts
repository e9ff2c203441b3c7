/**
 * Light and tones as one affine map of a pixel's red, green and blue, in sRGB as it is stored: what the browser shows
 * with a filter and what the server works out are the same sums.
 */

/** `linear` row by row for red, green and blue, then `offset` is added, in steps of 1 from 0 to 255. */
export interface ColourMap {
  linear: readonly [number, number, number, number, number, number, number, number, number];
  offset: readonly [number, number, number];
}

const SAME: ColourMap = { linear: [1, 0, 0, 0, 1, 0, 0, 0, 1], offset: [0, 0, 0] };

/** Luma of sRGB (ITU-R BT.709). */
const LUMA = [0.2126, 0.7152, 0.0722] as const;

/** First `first`, then `second`. */
function then(first: ColourMap, second: ColourMap): ColourMap {
  const at = (row: number, column: number) =>
    [0, 1, 2].reduce((sum, k) => sum + second.linear[row * 3 + k] * first.linear[k * 3 + column], 0);
  const [a, b, c] = first.offset;
  return {
    linear: [0, 1, 2].flatMap((row) => [0, 1, 2].map((column) => at(row, column))) as never,
    offset: [0, 1, 2].map(
      (row) =>
        second.linear[row * 3] * a +
        second.linear[row * 3 + 1] * b +
        second.linear[row * 3 + 2] * c +
        second.offset[row],
    ) as never,
  };
}

const scaled = (red: number, green: number, blue: number): ColourMap => ({
  linear: [red, 0, 0, 0, green, 0, 0, 0, blue],
  offset: [0, 0, 0],
});

/** 1 leaves colours, 0 makes them grey, more makes them stronger. */
function saturated(k: number): ColourMap {
  const [r, g, b] = LUMA.map((share) => share * (1 - k));
  return { linear: [r + k, g, b, r, g + k, b, r, g, b + k], offset: [0, 0, 0] };
}

/** Around the middle; 1 leaves it. */
function contrasted(k: number): ColourMap {
  return { ...scaled(k, k, k), offset: [128 * (1 - k), 128 * (1 - k), 128 * (1 - k)] };
}

/** All of a pixel's light on a way from one colour to another. */
function between(dark: readonly number[], light: readonly number[]): ColourMap {
  return {
    linear: [0, 1, 2].flatMap((row) =>
      LUMA.map((share) => (share * (light[row] - dark[row])) / 255),
    ) as never,
    offset: dark as never,
  };
}

const faded = (lift: number): ColourMap => ({
  ...scaled(1 - lift / 255, 1 - lift / 255, 1 - lift / 255),
  offset: [lift, lift, lift],
});

/** Tones of our own, each as what it does at full strength. */
export const TONES = {
  lateSun: { label: "Late sun", map: then(contrasted(1.12), then(saturated(1.15), scaled(1.1, 1, 0.82))) },
  overcast: { label: "Overcast", map: then(saturated(0.72), then(contrasted(0.88), scaled(0.97, 1, 1.06))) },
  seedPacket: { label: "Seed packet", map: then(saturated(0.8), then(faded(34), scaled(1.04, 0.99, 0.88))) },
  underGlass: { label: "Under glass", map: then(saturated(1.05), then(faded(14), scaled(0.93, 1.05, 0.98))) },
  firstFrost: {
    label: "First frost",
    map: then(saturated(0.6), then(contrasted(1.08), scaled(0.92, 1.01, 1.14))),
  },
  clay: { label: "Clay", map: between([52, 26, 18], [250, 232, 214]) },
  slate: { label: "Slate", map: between([24, 30, 40], [236, 240, 244]) },
  print: { label: "Print", map: then(saturated(0), contrasted(1.45)) },
} as const satisfies Record<string, { label: string; map: ColourMap }>;
export type ToneName = keyof typeof TONES;

/** A tone at a strength from 0 to 100. */
export function toneMap(tone: ToneName, strength: number): ColourMap {
  const { map } = TONES[tone];
  const part = strength / 100;
  return {
    linear: map.linear.map((value, index) => SAME.linear[index] * (1 - part) + value * part) as never,
    offset: map.offset.map((value) => value * part) as never,
  };
}

/** Brightness, contrast, saturation and warmth, each from -100 to 100. */
export function lightMap(light: {
  brightness: number;
  contrast: number;
  saturation: number;
  warmth: number;
}): ColourMap {
  const [brightness, contrast, saturation, warmth] = [
    light.brightness,
    light.contrast,
    light.saturation,
    light.warmth,
  ].map((value) => value / 100);
  const bright = 1 + 0.6 * brightness;
  const warm = scaled(1 + 0.18 * warmth, 1 + 0.02 * warmth, 1 - 0.18 * warmth);
  return [
    scaled(bright, bright, bright),
    contrasted(contrast >= 0 ? 1 + contrast : 1 + 0.7 * contrast),
    saturated(1 + saturation),
  ].reduce((all, next) => then(all, next), warm);
}

/** Nine weights around a pixel that sharpen it, from 0 to 100; they sum up to 1. */
export function sharpenKernel(sharpness: number): number[] {
  const around = -sharpness / 100 / 8;
  return Array.from({ length: 9 }, (_, index) => (index === 4 ? 1 - 8 * around : around));
}
