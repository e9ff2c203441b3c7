/** Pictures that travel with what shows them, in a file. */
import { z } from "zod";
import { picturesNamed } from "~/core/compose";
import { pictureFile } from "../pictures/files";
import { picturesOfFiles } from "../pictures/library";
import { addPicture } from "../pictures/taking";
import type { Septima } from "../septima";

/** By their paths in what shows them; the bytes in base 64. */
export const PackedPicturesSchema = z.record(
  z.string(),
  z.object({ name: z.string(), alt: z.string(), data: z.string() }),
);
export type PackedPictures = z.infer<typeof PackedPicturesSchema>;

/** The workspace's pictures that JSON names. */
export async function packedPictures(septima: Septima, json: unknown): Promise<PackedPictures> {
  const shown = await picturesOfFiles(septima, picturesNamed(json));
  return Object.fromEntries(
    await Promise.all(
      [...shown].map(async ([file, { name, alt }]) => {
        const { data } = await pictureFile(septima, file);
        return [`/pictures/${file}`, { name, alt, data: Buffer.from(data).toString("base64") }] as const;
      }),
    ),
  );
}

/**
 * Takes packed pictures into the library.
 * @returns the JSON with the paths they have here
 * @throws Refusal when one of them is no picture or is too large
 */
export async function unpackPictures(
  septima: Septima,
  json: unknown,
  packed: PackedPictures,
): Promise<unknown> {
  let placed = JSON.stringify(json);
  for (const [path, { name, alt, data }] of Object.entries(packed)) {
    if (!path.startsWith("/pictures/")) continue;
    const kept = await addPicture(septima, name, Buffer.from(data, "base64"), alt);
    placed = placed.replaceAll(JSON.stringify(path), JSON.stringify(kept.path));
  }
  return JSON.parse(placed);
}
