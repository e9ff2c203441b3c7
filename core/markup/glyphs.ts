import { contrast, DISTINCT, invertedGround, readableOn } from "../color";
import { absolute, escapeHtml } from "../program";
import type { RenderContext } from "./context";
import { css } from "./html";

/**
 * Small line drawings of our own, as strokes in a square of 24: SVG path data each. Mail programs show no SVG, so
 * messages carry them as pictures that the server draws at `/glyphs/<name>-<RRGGBB>.png`, with `-<RRGGBB>` of an outline where one is needed.
 */
export const GLYPHS = {
  check: "M4 12.5l5.2 5.2L20 7",
  star: "M12 3l2.7 6 6.3.6-4.8 4.3 1.4 6.6L12 17.2 6.4 20.5l1.4-6.6L3 9.6 9.3 9z",
  heart:
    "M12 20S4 14.8 4 9.2C4 6.5 6 4.5 8.4 4.5c1.6 0 2.9.9 3.6 2.2.7-1.3 2-2.2 3.6-2.2C18 4.5 20 6.5 20 9.2 20 14.8 12 20 12 20z",
  leaf: "M5 19C4 10 9 4 20 4c0 11-6 16-13 15M5 20c2-5 5-8 9-10",
  sun: "M12 8a4 4 0 100 8 4 4 0 000-8M12 2.5v2M12 19.5v2M2.5 12h2M19.5 12h2M5.3 5.3l1.4 1.4M17.3 17.3l1.4 1.4M18.7 5.3l-1.4 1.4M6.7 17.3l-1.4 1.4",
  drop: "M12 3c4 5 6 8 6 11a6 6 0 01-12 0c0-3 2-6 6-11z",
  pin: "M12 21c-4.5-5-7-8.5-7-11.500a7 7 0 0114 0C19 12.5 16.5 16 12 21zM12 7.500a2.3 2.3 0 100 4.6 2.3 2.3 0 000-4.6",
  clock: "M12 3a9 9 0 100 18 9 9 0 000-18M12 7v5.300l3.5 2",
  phone:
    "M5 4h4l1.5 4.500L8 10.200c1 2.5 3.3 4.8 5.8 5.800l1.7-2.500L20 15v4c0 .6-.4 1-1 1C10.7 20 4 13.3 4 5c0-.6.4-1 1-1z",
  letter: "M3.5 6h17v12.500h-17zM4 6.500l8 6.5 8-6.5",
  globe:
    "M12 3a9 9 0 100 18 9 9 0 000-18M3.5 12h17M12 3c3 3 3.5 6 3.5 9s-.5 6-3.5 9c-3-3-3.5-6-3.5-9S9 6 12 3",
  camera: "M3.5 7.500h4L9 5h6l1.5 2.500h4v11h-17zM12 9.500a3.5 3.5 0 100 7 3.5 3.5 0 000-7",
  film: "M3.5 5.500h17v13h-17zM10.5 9.200v5.600l4.7-2.800z",
  talk: "M4 5h16v11h-9l-4.5 4v-4H4zM8 9h8M8 12h5",
  people:
    "M9 5a3.2 3.2 0 100 6.400A3.2 3.2 0 009 5M3 19.500c0-3.5 2.5-5.5 6-5.500s6 2 6 5.500M15.5 5.200a3.2 3.2 0 010 6M17.5 14.300c2.2.7 3.5 2.5 3.5 5.2",
  feed: "M5 5c8 0 14 6 14 14M5 11c4.5 0 8 3.5 8 8M6.2 16.600a1.2 1.2 0 100 2.4 1.2 1.2 0 000-2.4",
  calendar: "M4 6h16v14H4zM4 10.500h16M8 3.500V8M16 3.500V8",
  arrow: "M4 12h15M13 6l6 6-6 6",
  truck:
    "M2.5 6.500h11v10h-11zM13.5 10h4.500l3.5 3.500v3h-8M6.5 15a2 2 0 100 4 2 2 0 000-4M17 15a2 2 0 100 4 2 2 0 000-4",
  gift: "M4 11h16v9.500H4zM3 7.500h18V11H3zM12 7.500v13M12 7.500C9 7.5 7 6.5 7 5s1-2 2-2c2 0 3 2.5 3 4.500zM12 7.500c3 0 5-1 5-2.500s-1-2-2-2c-2 0-3 2.5-3 4.500z",
  chain: "M10 14a4 4 0 005.7 0l3-3a4 4 0 10-5.7-5.700l-1 1M14 10a4 4 0 00-5.7 0l-3 3a4 4 0 105.7 5.700l1-1",
} as const;
export type GlyphName = keyof typeof GLYPHS;
export const GLYPH_NAMES = Object.keys(GLYPHS) as [GlyphName, ...GlyphName[]];

/**
 * The drawing as SVG, for programs that show it.
 * @param outline the colour of a line around its strokes
 */
export function glyphSvg(name: GlyphName, color: string, size: number, outline?: string): string {
  const path = `<path d="${GLYPHS[name]}"/>`;
  const around = outline ? `<g stroke="${outline}" stroke-width="3.6">${path}</g>` : "";
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 24 24" fill="none" stroke="${color}" stroke-width="1.8" stroke-linecap="round" stroke-linejoin="round">${around}${path}</svg>`;
}

/**
 * The colour of a drawing, and of an outline where it needs one. A picture keeps its colours in whatever dark mode, so
 * a drawing must stand out from its ground in all of them: the theme's colour is moved to a middle tone, the
 * designer's own stays and gets an outline in the colour of the ground in light, where it is not seen.
 */
function glyphColors(
  own: string | undefined,
  { theme, ground }: Pick<RenderContext, "theme" | "ground">,
): { color: string; outline?: string } {
  const grounds = [
    ground.light,
    ground.dark,
    invertedGround(ground.light, "partial"),
    invertedGround(ground.light, "full"),
  ];
  const distinct = (color: string) => grounds.every((one) => contrast(color, one) >= DISTINCT);
  const color = own ?? readableOn(theme.light.accent, grounds, DISTINCT);
  return distinct(color) ? { color } : { color, outline: ground.light };
}

/** The drawing as a picture of a message. Without `alt` it is decoration beside words that say the same. */
export function glyphImg(
  glyph: { name: GlyphName; own?: string; size: number; alt?: string },
  context: RenderContext,
): string {
  const { color, outline } = glyphColors(glyph.own, context);
  const file = [glyph.name, color.slice(1), ...(outline ? [outline.slice(1)] : [])].join("-");
  return squareImg(`/glyphs/${file}.png`, glyph.size, glyph.alt, context);
}

/** A small square picture within a line. */
export function squareImg(
  src: string,
  size: number,
  alt: string | undefined,
  { origin }: Pick<RenderContext, "origin">,
): string {
  // The height alone is fixed, so that the words in its place have room where pictures are off.
  const style = css({
    display: "inline-block",
    width: "auto",
    height: `${size}px`,
    border: "0",
    "vertical-align": "middle",
  });
  return `<img src="${escapeHtml(absolute(src, origin))}" alt="${escapeHtml(alt ?? "")}" width="${size}" height="${size}" style="${style}">`;
}
