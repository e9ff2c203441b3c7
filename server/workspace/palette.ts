import sharp from "sharp";
import { coloursOf, type PictureColour } from "~/core/color";
import { pictureFile } from "../pictures/files";
import type { Septima } from "../septima";

/** How many pixels to a side are looked at. */
const LOOKED_AT = 96;

/**
 * The colours of a picture of the workspace, most of it first.
 * @throws Refusal (404) when there is no such picture
 */
export async function pictureColours(septima: Septima, id: string): Promise<PictureColour[]> {
  const { data } = await pictureFile(septima, id);
  const { data: pixels } = await sharp(data)
    .resize(LOOKED_AT, LOOKED_AT, { fit: "inside", kernel: "nearest" })
    .toColourspace("srgb")
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return coloursOf(new Uint8Array(pixels));
}
