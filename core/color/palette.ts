import { differenceOf, lightnessOf } from "./lightness";

/** A colour of a picture, and which share of what can be seen of it has about that colour, from 0 to 1. */
export interface PictureColour {
  color: string;
  share: number;
}

/** Colours that look nearer than this are one (CIE76). */
const APART = 18;

/**
 * The colours a picture is made of, most of it first: counted in boxes of sixteen steps to a channel, each box as the
 * mean of what fell into it, and boxes that look alike put together.
 * @param pixels red, green, blue and opacity of each, from 0 to 255; what can be seen through does not count
 * @param most how many colours are named
 */
export function coloursOf(pixels: Uint8Array, most = 8): PictureColour[] {
  const boxes = new Map<number, [r: number, g: number, b: number, count: number]>();
  let seen = 0;
  for (let at = 0; at + 3 < pixels.length; at += 4) {
    const [r, g, b, opacity] = pixels.subarray(at, at + 4);
    if (opacity < 128) continue;
    seen++;
    const key = ((r >> 4) << 8) | ((g >> 4) << 4) | (b >> 4);
    const box = boxes.get(key);
    if (box) {
      box[0] += r;
      box[1] += g;
      box[2] += b;
      box[3]++;
    } else boxes.set(key, [r, g, b, 1]);
  }
  const found: PictureColour[] = [];
  const byCount = [...boxes.values()].sort((a, b) => b[3] - a[3]);
  for (const [r, g, b, count] of byCount) {
    const byte = (sum: number) =>
      Math.round(sum / count)
        .toString(16)
        .padStart(2, "0");
    const color = `#${byte(r)}${byte(g)}${byte(b)}`.toUpperCase();
    const alike = found.find((one) => differenceOf(one.color, color) < APART);
    if (alike) alike.share += count / seen;
    else found.push({ color, share: count / seen });
  }
  return found.filter(({ share }) => share > 0.004).slice(0, most);
}

/** How colourful a colour looks: how far it is from the grey of its lightness (CIE76). */
export function colourfulness(color: string): number {
  const grey = Math.round((lightnessOf(color) / 100) * 255)
    .toString(16)
    .padStart(2, "0");
  return differenceOf(color, `#${grey}${grey}${grey}`);
}
