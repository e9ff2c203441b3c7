/** Files of vCards, made records: one in each line, as JSON. */
import { createWriteStream } from "node:fs";
import { readFile } from "node:fs/promises";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { cardsAsRecords } from "~/core/importing";
import { decodeText, type Encoding } from "~/core/tables";

/** Reads the cards of a file and writes them as records to another one. Is run confined. */
export async function readCards(from: string, encoding: Encoding, to: string): Promise<void> {
  const records = cardsAsRecords(decodeText(await readFile(from), encoding));
  const lines = function* () {
    for (const record of records) yield `${JSON.stringify(record)}\n`;
  };
  await pipeline(Readable.from(lines()), createWriteStream(to));
}
