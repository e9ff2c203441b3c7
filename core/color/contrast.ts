import { remembering } from "./memory";

/** What words need on their ground, and what large words, faces and drawings need (WCAG 2.2, 1.4.3 and 1.4.11). */
export const READABLE = 4.5;
export const DISTINCT = 3;

/** Relative luminance of a colour `#RRGGBB`, from 0 to 1 (WCAG 2.2, "relative luminance"). */
export const luminance = remembering((color) => {
  const [r, g, b] = linear(color);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
});

/** Contrast of two colours `#RRGGBB`, from 1 to 21 (WCAG 2.2, "contrast ratio"). */
export function contrast(a: string, b: string): number {
  const [one, other] = [luminance(a), luminance(b)];
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05);
}

/** The three channels of a colour as shares of light, from 0 to 1 (IEC 61966-2-1). */
export function linear(color: string): [number, number, number] {
  return [lightOf(color, 1), lightOf(color, 3), lightOf(color, 5)];
}

function lightOf(color: string, at: number): number {
  const share = Number.parseInt(color.slice(at, at + 2), 16) / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
}

/** A colour seen through another: `top` at a share of `density` percent over `below`. */
export function over(top: string, density: number, below: string): string {
  const channels = [1, 3, 5].map((at) => {
    const [a, b] = [top, below].map((color) => Number.parseInt(color.slice(at, at + 2), 16));
    return Math.round(b + ((a - b) * density) / 100);
  });
  return `#${channels.map((channel) => channel.toString(16).padStart(2, "0")).join("")}`.toUpperCase();
}
