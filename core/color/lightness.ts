import { contrast, linear, luminance } from "./contrast";
import { remembering } from "./memory";

/**
 * Lightness, hue and colourfulness in CIELAB (CIE 15, white D65), where equal steps of lightness look equal. Moving the
 * lightness alone keeps what a colour is taken for; where the screen has no such colour, it is made less colourful.
 */
interface Lab {
  /** From 0, black, to 100, white. */
  l: number;
  a: number;
  b: number;
}

const WHITE = [0.95047, 1, 1.08883];
const EDGE = 216 / 24389;
const SLOPE = 24389 / 27;

function labOf(color: string): Lab {
  const [r, g, b] = linear(color);
  const [x, y, z] = [
    0.4124564 * r + 0.3575761 * g + 0.1804375 * b,
    0.2126729 * r + 0.7151522 * g + 0.072175 * b,
    0.0193339 * r + 0.119192 * g + 0.9503041 * b,
  ].map((value, index) => {
    const share = value / WHITE[index];
    return share > EDGE ? Math.cbrt(share) : (SLOPE * share + 16) / 116;
  });
  return { l: 116 * y - 16, a: 500 * (x - y), b: 200 * (y - z) };
}

/** The channels from 0 to 1, beyond them where the screen has no such colour. */
function channelsOf({ l, a, b }: Lab): number[] {
  const fy = (l + 16) / 116;
  const [x, y, z] = [fy + a / 500, fy, fy - b / 200].map(
    (f, index) => WHITE[index] * (f ** 3 > EDGE ? f ** 3 : (116 * f - 16) / SLOPE),
  );
  return [
    3.2404542 * x - 1.5371385 * y - 0.4985314 * z,
    -0.969266 * x + 1.8760108 * y + 0.041556 * z,
    0.0556434 * x - 0.2040259 * y + 1.0572252 * z,
  ].map((light) => (light <= 0.0031308 ? 12.92 * light : 1.055 * Math.max(0, light) ** (1 / 2.4) - 0.055));
}

function hexOf(lab: Lab): string {
  const inside = (channels: number[]) => channels.every((value) => value > -0.0005 && value < 1.0005);
  let channels = channelsOf(lab);
  if (!inside(channels)) {
    let [from, to] = [0, 1];
    for (let step = 0; step < 12; step++) {
      const share = (from + to) / 2;
      if (inside(channelsOf({ ...lab, a: lab.a * share, b: lab.b * share }))) from = share;
      else to = share;
    }
    channels = channelsOf({ ...lab, a: lab.a * from, b: lab.b * from });
  }
  const byte = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 255);
  return `#${channels.map((value) => byte(value).toString(16).padStart(2, "0")).join("")}`.toUpperCase();
}

/** How light a colour looks, from 0, black, to 100, white. */
export const lightnessOf = remembering((color) => labOf(color).l);

/** How far two colours look apart (CIE76): about 2 can just be seen, black and white are 100 apart. */
export function differenceOf(one: string, other: string): number {
  const [a, b] = [labOf(one), labOf(other)];
  return Math.hypot(a.l - b.l, a.a - b.a, a.b - b.b);
}

/** The same colour, as light as asked. */
export function withLightness(color: string, lightness: number): string {
  return hexOf({ ...labOf(color), l: Math.min(100, Math.max(0, lightness)) });
}

/**
 * The colour, or the nearest one of its hue, lighter or darker, that reaches a contrast on every one of some grounds.
 * Where none does, the one that comes nearest to it.
 * @param least the contrast that is enough
 * @param wanted the contrast that a moved colour is given, where more than the least is wished
 */
export function readableOn(
  color: string,
  grounds: string | readonly string[],
  least = 4.5,
  wanted = least,
): string {
  const all = typeof grounds === "string" ? [grounds] : grounds;
  const worst = (one: string) => Math.min(...all.map((ground) => contrast(one, ground)));
  if (worst(color) >= least) return color;
  return nearest(`${color} ${wanted} ${all.join(" ")}`);
}

/** Looks for the nearest colour: by the colour, the contrast it is to reach, and the grounds, parted by spaces. */
const nearest = remembering((asked) => {
  const [color, contrastWanted, ...all] = asked.split(" ");
  const wanted = Number(contrastWanted);
  const worst = (one: string) => Math.min(...all.map((ground) => contrast(one, ground)));
  const from = Math.round(lightnessOf(color));
  let best = color;
  for (let step = 1; step <= 100; step++) {
    for (const lightness of [from + step, from - step]) {
      if (lightness < 0 || lightness > 100) continue;
      const candidate = withLightness(color, lightness);
      const reached = worst(candidate);
      if (reached >= wanted) return candidate;
      if (reached > worst(best)) best = candidate;
    }
  }
  return best;
});

/** A ground of the same hue, dark enough that `text` reaches a contrast on it; one that already is stays. */
export function darkenedFor(ground: string, text: string, least: number, wanted: number): string {
  if (luminance(ground) < luminance(text) && contrast(ground, text) >= least) return ground;
  return darkened(`${ground} ${wanted} ${text}`);
}

const darkened = remembering((asked) => {
  const [ground, contrastWanted, text] = asked.split(" ");
  let dark = ground;
  for (let lightness = Math.min(60, lightnessOf(ground)); lightness >= 0; lightness--) {
    dark = withLightness(ground, lightness);
    if (luminance(dark) < luminance(text) && contrast(dark, text) >= Number(contrastWanted)) break;
  }
  return dark;
});
