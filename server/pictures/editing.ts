/** Pictures that are changed: by steps from their original, over the picture that is there or as a copy. */
import { readFile } from "node:fs/promises";
import path from "node:path";
import { WEB_FONTS } from "~/core/email";
import type { PictureStep } from "~/core/pictures";
import { carried } from "../campaigns/carrying";
import type { Use } from "../mentions";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "../workspace/settings";
import { nameOf, originalOf } from "./files";
import { type Picture, type PictureDetail, picture, pictureDetail } from "./library";
import { develop } from "./taking";
import { type Reach, replaceEverywhere } from "./uses";

const fileOf = (src: string) => path.posix.basename(src);

/** Keeps what was made as a file of a picture, which shows it from now on. */
async function keep(
  septima: Septima,
  id: string,
  steps: readonly PictureStep[],
  made: { file: string; type: string; width: number; height: number; bytes: number },
): Promise<void> {
  const { file, type, width, height, bytes } = made;
  await septima.db.transaction(async (tx) => {
    const rows = await tx.query(
      `update pictures set steps = $2::jsonb, file = $3, type = $4, width = $5, height = $6, bytes = $7
       where id = $1 and deleted_at is null returning id`,
      [id, JSON.stringify(steps), file, type, width, height, bytes],
    );
    if (rows.length === 0) throw new Refusal("This picture does not exist any more.", 404);
    await tx.query(
      `insert into picture_files (file, picture, steps, type, width, height, bytes, created_at)
       values ($1, $2, $3::jsonb, $4, $5, $6, $7, $8)`,
      [file, id, JSON.stringify(steps), type, width, height, bytes, new Date(septima.now())],
    );
  });
}

/**
 * Saves a picture over itself: everything that shows it, was not sent and is not scheduled shows it so from now on. What it
 * was can be had back, since its original and the steps are kept.
 * @throws Refusal when it is gone, or its original cannot be read
 */
export async function savePictureOver(
  septima: Septima,
  id: string,
  steps: readonly PictureStep[],
  reach: Reach = {},
): Promise<{ picture: Picture; before: string[]; reached: Use[] }> {
  const { path: src, name } = await picture(septima, id);
  const made = await develop(septima, await originalOf(septima, fileOf(src)), steps, name);
  const { now, reached } = await carried(
    septima,
    "picture",
    { picture: id, scheduled: [...(reach.scheduled ?? [])] },
    async () => {
      await keep(septima, id, steps, made);
      return showEverywhere(septima, id, reach);
    },
  );
  const { versions } = await pictureDetail(septima, id);
  return { picture: now, before: versions.map((one) => one.path).filter((one) => one !== now.path), reached };
}

/** Shows a picture as it is now wherever it is shown and was not sent. @throws Refusal (404) */
export async function showEverywhere(septima: Septima, id: string, reach: Reach = {}) {
  const now = await picture(septima, id);
  const fresh = { src: now.path, width: now.width, height: now.height };
  return { now, reached: await replaceEverywhere(septima, id, fresh, reach) };
}

/** Saves what steps make of a picture as another one beside it, filed where it is. @throws as `savePictureOver` does */
export async function savePictureCopy(
  septima: Septima,
  id: string,
  steps: readonly PictureStep[],
  name?: string,
): Promise<Picture> {
  const before = await picture(septima, id);
  const made = await develop(septima, await originalOf(septima, fileOf(before.path)), steps, before.name);
  const fresh = septima.newId();
  await septima.db.query(
    `insert into pictures (id, name, file, type, width, height, bytes, alt, folder, labels, original, copied, created_at)
     select $2, $3, $4, $5, $6, $7, $8, alt, folder, labels, original, true, $9 from pictures where id = $1`,
    [
      id,
      fresh,
      name?.trim() || copyName(before.name),
      made.file,
      made.type,
      made.width,
      made.height,
      made.bytes,
      new Date(septima.now()),
    ],
  );
  await keep(septima, fresh, steps, made);
  return picture(septima, fresh);
}

/** “Bed.jpg” as “Bed, copy.jpg”. */
function copyName(name: string): string {
  const [, stem, ending] = /^(.*?)(\.[a-z0-9]{2,5})?$/is.exec(name) ?? [];
  return `${stem ?? name}, copy${ending ?? ""}`;
}

/**
 * A picture as other steps would show it, without keeping it.
 * @param width as wide as it is fetched, in px
 */
export async function tryPicture(
  septima: Septima,
  detail: Pick<PictureDetail, "path" | "name">,
  steps: readonly PictureStep[],
  width?: number,
): Promise<{ type: string; data: Buffer }> {
  const original = await originalOf(septima, fileOf(detail.path));
  const made = await develop(septima, original, steps, detail.name, width);
  const data = await readFile(await septima.files.place(nameOf(made.file)));
  await septima.files.forget(nameOf(made.file));
  return { type: made.type, data };
}

/** What words on a picture can be written with: the brand's fonts and colours first. */
export async function writingFor(septima: Septima) {
  const { fonts = [], colours = [] } = await brandOf(septima);
  const own = fonts.map(({ family }) => ({ family, aside: "from the brand" }));
  const shipped = [...WEB_FONTS.map(({ family }) => family), "Hanken Grotesk"]
    .filter((family) => own.every((font) => font.family !== family))
    .map((family) => ({ family }));
  return { fonts: [...own, ...shipped], colours: colours.map((one) => one.color.toUpperCase()) };
}
