/** Cuts a picture to a shape. Run confined, as all that opens what strangers made. */
import { rename, rm } from "node:fs/promises";
import sharp from "sharp";
import { CUT_RATIOS, type CutRatio, shapedBox } from "~/core/pictures";
import { Refusal } from "../refusal";
import { encoded, type Original, opened } from "./develop";

/**
 * Writes a picture cut to a shape and a width, and no wider than it is; of one that moves, what it begins with.
 * @param stem the path of the file to write, without an ending: `.jpg` where nothing shows through, `.png` elsewhere
 * @param focus what stays in view, in shares; null lets what catches the eye decide
 * @throws Refusal when it cannot be read to its end; nothing is written then
 */
export async function shapePicture(
  original: Original,
  stem: string,
  ratio: CutRatio,
  width: number,
  focus: { x: number; y: number } | null,
): Promise<void> {
  const part = `${stem}.${process.pid}.part`;
  try {
    const upright = await (await opened(original, false)).rotate().toBuffer({ resolveWithObject: true });
    const box = shapedBox(upright.info, ratio, focus ?? { x: 0.5, y: 0.5 });
    const wide = Math.min(width, box.width);
    const size = { width: wide, height: Math.max(1, Math.round(wide / CUT_RATIOS[ratio])) };
    const cut = focus
      ? sharp(upright.data)
          .extract(box)
          .resize({ ...size, fit: "fill" })
      : sharp(upright.data).resize({ ...size, fit: "cover", position: sharp.strategy.attention });
    const { isOpaque } = await sharp(upright.data).stats();
    await encoded(cut, isOpaque ? "jpeg" : "png").toFile(part);
    // Whoever looks for it meanwhile finds it whole or not at all.
    await rename(part, `${stem}${isOpaque ? ".jpg" : ".png"}`);
  } catch (error) {
    await rm(part, { force: true });
    throw new Refusal(`The picture is damaged and cannot be read to its end (${(error as Error).message}).`);
  }
}
