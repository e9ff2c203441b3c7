import { open } from "node:fs/promises";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { MOST_OCTETS_OF_ITEMS } from "./reading";
import { addFile } from "./sources";

/**
 * Keeps a file as its octets come, and adds it as a source.
 * @returns the id of the source
 * @throws Refusal that names what is wrong with it, and its line; then nothing is kept
 */
export async function takeSourceFile(
  septima: Septima,
  name: string,
  octets: ReadableStream<Uint8Array>,
): Promise<string> {
  const kept = `sources/${septima.newId()}`;
  const handle = await open(await septima.files.place(kept), "w");
  try {
    let length = 0;
    try {
      for await (const piece of octets as unknown as AsyncIterable<Uint8Array>) {
        length += piece.length;
        if (length > MOST_OCTETS_OF_ITEMS)
          throw new Refusal(
            `“${name}” is larger than ${MOST_OCTETS_OF_ITEMS / 1_000_000} MB. Bring it in as several files.`,
          );
        await handle.write(piece);
      }
    } finally {
      await handle.close();
    }
    await septima.files.keep(kept);
    return await addFile(septima, kept, name);
  } catch (error) {
    await septima.files.forget(kept);
    throw error;
  }
}
