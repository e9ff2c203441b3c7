import { hashOf } from "../values";
import { pictureFileOf, variantWidth } from "./variants";

/** The shapes to which pictures of items are cut, by their names: width to height. */
export const CUT_RATIOS = { "1x1": 1, "4x3": 4 / 3, "3x2": 3 / 2, "16x9": 16 / 9, "3x4": 3 / 4 } as const;
export type CutRatio = keyof typeof CUT_RATIOS;

/** The widest that pictures are cut, in px: twice the width of an email. */
const WIDEST = 1400;

/**
 * The address of an item's picture cut to a shape around what matters in it: ours, since what the source gives has the
 * shape it has.
 * @param of the item, by its source and its id there; of one that is written by hand its picture alone counts
 * @param shown in CSS px
 */
export function shapedAddress(
  { source, id, picture }: { source: string; id: string; picture: string },
  ratio: CutRatio,
  shown: number,
): string {
  const width = variantWidth(Math.min(shown, WIDEST / 2), Number.POSITIVE_INFINITY);
  const file = pictureFileOf(picture);
  if (file !== null) return `/shaped/${ratio}/${width}/library?id=${file}`;
  // With another picture it has another address: those who kept the one before fetch it anew.
  const version = hashOf(picture).toString(36);
  return `/shaped/${ratio}/${width}/${encodeURIComponent(source)}?id=${encodeURIComponent(id)}&v=${version}`;
}

/** The px of a picture that are kept when it is cut to a shape, as near to its focus as they can be. */
export function shapedBox(
  { width, height }: { width: number; height: number },
  ratio: CutRatio,
  focus: { x: number; y: number },
): { left: number; top: number; width: number; height: number } {
  const relation = CUT_RATIOS[ratio];
  const kept = {
    width: Math.max(1, Math.round(Math.min(width, height * relation))),
    height: Math.max(1, Math.round(Math.min(height, width / relation))),
  };
  const within = (middle: number, size: number, all: number) =>
    Math.round(Math.min(Math.max(0, middle * all - size / 2), all - size));
  return {
    ...kept,
    left: within(focus.x, kept.width, width),
    top: within(focus.y, kept.height, height),
  };
}
