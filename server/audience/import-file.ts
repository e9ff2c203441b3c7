/** Files of contacts on their way in: kept as they came, looked through, and read line by line. */
import { createReadStream } from "node:fs";
import { open } from "node:fs/promises";
import { createInterface } from "node:readline";
import { z } from "zod";
import { CARD_COLUMNS, isCards } from "~/core/importing";
import {
  type ColumnFacts,
  ColumnWatch,
  CsvReader,
  type CsvRecord,
  CsvTrouble,
  DECODERS,
  type Encoding,
  EncodingFinder,
  findDialect,
} from "~/core/tables";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** So many octets a file may have. */
export const MOST_OCTETS = 1_000_000_000;
/** So many octets of vCards, which are read at once. */
const MOST_CARDS = 50_000_000;
/** So many columns. */
const MOST_COLUMNS = 1000;
/** Files that nobody went on with go after so long, in milliseconds. */
const KEPT = 48 * 3_600_000;
const SAMPLES = 12;

/** How a file is read. */
export const ReadingSchema = z.object({
  encoding: z.enum(Object.keys(DECODERS) as [Encoding, ...Encoding[]]),
  /** Parts its cells; null for vCards. */
  delimiter: z.enum([",", ";", "\t", "|"]).nullable(),
  header: z.boolean(),
});
export type Reading = z.infer<typeof ReadingSchema>;

/** What was found when a file was looked through. */
export interface FileFacts {
  id: string;
  name: string;
  octets: number;
  reading: Reading;
  /** Lines that hold something, without the one of names. */
  lines: number;
  columns: ColumnFacts[];
  /** The first lines. */
  samples: CsvRecord[];
}

const ID = /^[\w-]{4,60}$/;

/** What a file is called where files are kept. @throws Refusal (404) for what is no id */
function nameOf(id: string): string {
  if (!ID.test(id)) throw new Refusal("There is no such import.", 404);
  return `imports/${id}`;
}

/** The path of what came under a name. @throws Refusal (404) when it is gone */
async function fileOf({ files }: Septima, name: string): Promise<string> {
  const file = await files.at(name);
  if (file === null) throw gone();
  return file;
}

const gone = () =>
  new Refusal("This file is not here any more: it was brought in, or waited too long. Give it again.", 404);

/**
 * Keeps a file as its octets come, and looks through it.
 * @throws Refusal that names what is wrong with the file, and its line
 */
export async function takeFile(
  septima: Septima,
  name: string,
  octets: ReadableStream<Uint8Array>,
): Promise<string> {
  const id = septima.newId();
  await septima.db.query("insert into import_files (id, come_at) values ($1, $2)", [
    id,
    new Date(septima.now()),
  ]);
  const to = await septima.files.place(nameOf(id));
  const finder = new EncodingFinder();
  const handle = await open(to, "w");
  let length = 0;
  try {
    for await (const piece of octets as unknown as AsyncIterable<Uint8Array>) {
      length += piece.length;
      if (length > MOST_OCTETS)
        throw new Refusal(`“${name}” is larger than 1 GB. Bring it in as several files.`);
      finder.take(piece);
      await handle.write(piece);
    }
    const found = finder.end();
    if ("problem" in found) throw new Refusal(`“${name}” ${found.problem}`);
    const beginning = await firstText(to, found.encoding);
    const cards = isCards(beginning);
    if (cards && length > MOST_CARDS) throw new Refusal(`“${name}” has more than 50 MB of vCards.`);
    const reading: Reading = {
      encoding: found.encoding,
      ...(cards ? { delimiter: null, header: false } : findDialect(beginning)),
    };
    await septima.files.keep(nameOf(id));
    await look(septima, { id, name, octets: length, reading });
  } catch (error) {
    await forgetFile(septima, id);
    throw error;
  } finally {
    await handle.close();
  }
  return id;
}

/** What is known of a file on its way in. @throws Refusal (404) when it is gone */
export async function fileFacts(septima: Septima, id: string): Promise<FileFacts> {
  nameOf(id);
  const [row] = await septima.db.query<{ facts: string | null }>(
    "select facts from import_files where id = $1",
    [id],
  );
  if (!row?.facts) throw gone();
  return JSON.parse(row.facts) as FileFacts;
}

/** Reads a file in another way than it was understood. @throws Refusal that names what is wrong, and the line */
export async function readDifferently(septima: Septima, id: string, reading: Reading): Promise<void> {
  const { name, octets } = await fileFacts(septima, id);
  await look(septima, { id, name, octets, reading });
}

/** Forgets a file. */
export async function forgetFile(septima: Septima, id: string): Promise<void> {
  await septima.db.query("delete from import_files where id = $1", [id]);
  await septima.files.forget(nameOf(id));
  for (const encoding of Object.keys(DECODERS) as Encoding[])
    await septima.files.forget(cardsOf(id, encoding));
}

/** Forgets files that nobody went on with. */
export async function clearFiles(septima: Septima): Promise<void> {
  const old = await septima.db.query<{ id: string }>("select id from import_files where come_at < $1", [
    new Date(septima.now() - KEPT),
  ]);
  for (const { id } of old) await forgetFile(septima, id);
}

async function firstText(file: string, encoding: Encoding): Promise<string> {
  const handle = await open(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(128 * 1024), 0, 128 * 1024, 0);
    return new TextDecoder(encoding).decode(buffer.subarray(0, bytesRead), { stream: true });
  } finally {
    await handle.close();
  }
}

/** What the cards of a file are called, as records, when it is read so. */
const cardsOf = (id: string, encoding: Encoding) => `${nameOf(id)}.${encoding}.cards`;
const CARDS_AT_ONCE = 500;

const breathe = () => new Promise<void>((resolve) => setImmediate(resolve));

/**
 * The records of a file, some at a time, and how far it is read, from 0 to 1. Between them others have their turn.
 * @throws Refusal that names the line from which it cannot be read
 */
export async function* recordsOf(
  septima: Septima,
  { id, name, octets, reading }: Pick<FileFacts, "id" | "name" | "octets" | "reading">,
): AsyncGenerator<{ records: CsvRecord[]; share: number }> {
  if (reading.delimiter === null) {
    const cards = await fileOf(septima, cardsOf(id, reading.encoding));
    let records: CsvRecord[] = [];
    for await (const line of createInterface(createReadStream(cards))) {
      records.push(JSON.parse(line) as CsvRecord);
      if (records.length < CARDS_AT_ONCE) continue;
      yield { records, share: 0 };
      records = [];
      await breathe();
    }
    yield { records, share: 1 };
    return;
  }
  const file = await fileOf(septima, nameOf(id));
  const decoder = new TextDecoder(reading.encoding);
  const reader = new CsvReader(reading.delimiter);
  let read = 0;
  try {
    for await (const piece of createReadStream(file, { highWaterMark: 48 * 1024 })) {
      const chunk = piece as Buffer;
      read += chunk.length;
      yield { records: reader.push(decoder.decode(chunk, { stream: true })), share: read / octets };
      await breathe();
    }
    const rest = reader.push(decoder.decode());
    yield { records: [...rest, ...reader.end()], share: 1 };
  } catch (error) {
    if (error instanceof CsvTrouble) throw new Refusal(`“${name}”: ${error.message}`);
    throw error;
  }
}

/** Looks through a whole file: what its columns hold, how many lines it has, and whether it can be read to its end. */
async function look(
  septima: Septima,
  file: Pick<FileFacts, "id" | "name" | "octets" | "reading">,
): Promise<void> {
  const thisYear = new Date(septima.now()).getUTCFullYear();
  const { header, delimiter, encoding } = file.reading;
  // What strangers wrote, in a form that is read as a whole.
  if (delimiter === null) {
    const given = await fileOf(septima, nameOf(file.id));
    const cards = cardsOf(file.id, encoding);
    await septima.confined.run("cards", given, encoding, await septima.files.place(cards));
    await septima.files.keep(cards);
  }
  let names: readonly string[] | null = delimiter === null ? CARD_COLUMNS : null;
  let watches: ColumnWatch[] = names ? names.map((name) => new ColumnWatch(name, thisYear)) : [];
  let lines = 0;
  const samples: CsvRecord[] = [];
  for await (const { records } of recordsOf(septima, file)) {
    for (const record of records) {
      if (names === null) {
        if (record.cells.length > MOST_COLUMNS)
          throw new Refusal(
            `“${file.name}” has ${record.cells.length.toLocaleString("en")} columns in line ${record.line}; more than ${MOST_COLUMNS} are not taken.`,
          );
        names = namesOf(record.cells, header);
        watches = names.map((name) => new ColumnWatch(name, thisYear));
        if (header) continue;
      }
      lines += 1;
      if (samples.length < SAMPLES)
        samples.push({
          ...record,
          cells: record.cells.map((cell) => (cell.length > 300 ? `${cell.slice(0, 300)}…` : cell)),
        });
      for (let at = 0; at < watches.length && at < record.cells.length; at++)
        watches[at].take(record.cells[at]);
    }
  }
  if (names === null || lines === 0)
    throw new Refusal(
      header && names !== null
        ? `“${file.name}” has names of columns and nothing below them.`
        : `“${file.name}” holds nothing that could be read.`,
    );
  const facts: FileFacts = { ...file, lines, columns: watches.map((watch) => watch.facts()), samples };
  await septima.db.query("update import_files set facts = $2 where id = $1", [
    file.id,
    JSON.stringify(facts),
  ]);
}

/** The names of columns, each of its own; without a header, their numbers. */
function namesOf(cells: readonly string[], header: boolean): string[] {
  const used = new Set<string>();
  return cells.map((cell, at) => {
    const bare = header && cell.trim() !== "" ? cell.trim().slice(0, 100) : `Column ${at + 1}`;
    let name = bare;
    for (let number = 2; used.has(name); number++) name = `${bare} (${number})`;
    used.add(name);
    return name;
  });
}
