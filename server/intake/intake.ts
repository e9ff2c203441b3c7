import { Refusal, type Septima } from "../septima";
import { addPicture, type Picture } from "../workspace/pictures";
import type { Taken } from "./taking";

/** What came in, ready to be put into a design; its pictures are in the workspace. */
export interface Intake extends Omit<Taken, "pictures"> {
  pictures: Picture[];
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

/** Adds the pictures that came along to the workspace; one that cannot be is lost, and its block with it. */
async function withPictures(septima: Septima, name: string, taken: Taken): Promise<Intake> {
  const added = new Map<unknown, Picture>();
  const lost: string[] = [];
  for (const { path, bytes } of taken.pictures) {
    try {
      added.set(path, await addPicture(septima, `From ${name}`, bytes));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      lost.push(`a picture: ${error.message}`);
    }
  }
  const came = new Set<unknown>(taken.pictures.map(({ path }) => path));
  return {
    ...taken,
    blocks: taken.blocks.flatMap((block) => {
      if (!came.has(block.src)) return [block];
      const picture = added.get(block.src);
      return picture
        ? [{ ...block, src: picture.path, natural: { width: picture.width, height: picture.height } }]
        : [];
    }),
    lost: { ...taken.lost, apart: [...taken.lost.apart, ...lost] },
    pictures: [...added.values()],
  };
}
