import { type Placeholder, placeholdersIn } from "~/core/apart";
import { withPicture } from "~/core/compose";
import { readerFields } from "../audience/fields";
import type { Picture } from "../pictures/library";
import { addPicture } from "../pictures/taking";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import type { Taken } from "./taken";

/** What came in, ready to be put into a design; its pictures are in the workspace. */
export interface Intake extends Omit<Taken, "pictures"> {
  pictures: Picture[];
  /** What another program would have filled in. */
  placeholders: Placeholder[];
}

/**
 * Reads a file that somebody wants to make a design of, within the limits of `septima.confined`.
 * @throws Refusal when it is too large, of another kind, damaged, or takes too much to read
 */
export async function readFile(septima: Septima, name: string, data: Uint8Array): Promise<Intake> {
  return withPictures(septima, name, await septima.confined.run("file", name, data));
}

/**
 * Reads writing that was pasted, within the limits of `septima.confined`.
 * @throws Refusal when it takes too much to read
 */
export async function readWriting(
  septima: Septima,
  kind: "text" | "markdown" | "html",
  text: string,
): Promise<Intake> {
  return withPictures(septima, "", await septima.confined.run("writing", kind, text));
}

/** Adds the pictures that came along to the workspace, and finds what another program would have filled in. */
async function withPictures(septima: Septima, name: string, taken: Taken): Promise<Intake> {
  const added: Picture[] = [];
  const lost: string[] = [];
  let { blocks, apart, whole } = taken;
  for (const { path, name: called, bytes } of taken.pictures) {
    try {
      const picture = await addPicture(septima, called || `From ${name}`, bytes);
      added.push(picture);
      const old = new Set([path]);
      const fresh = { src: picture.path, width: picture.width, height: picture.height };
      [blocks, apart, whole] = withPicture([blocks, apart, whole], old, fresh) as [
        typeof blocks,
        typeof apart,
        typeof whole,
      ];
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      lost.push(`a picture: ${error.message}`);
    }
  }
  // A picture that could not be kept is chosen anew.
  [blocks, apart] = withPicture([blocks, apart], new Set(taken.pictures.map(({ path }) => path)), {
    src: "",
    width: 1,
    height: 1,
  }) as [typeof blocks, typeof apart];
  const fields = await readerFields(septima);
  return {
    ...taken,
    blocks,
    apart,
    whole,
    lost: { apart: [...taken.lost.apart, ...lost], whole: [...taken.lost.whole, ...lost] },
    pictures: added,
    placeholders: placeholdersIn(apart ? apart.sections : blocks, fields),
  };
}
