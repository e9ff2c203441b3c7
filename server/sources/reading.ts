/** Documents of sources, read in a confined process: piece by piece from a file, and written to another as items. */
import { closeSync, openSync, readSync, writeSync } from "node:fs";
import { open, readFile } from "node:fs/promises";
import { foundBy, type Item } from "~/core/items";
import {
  FORMATS,
  type Format,
  firstOf,
  formatOf,
  GREATEST,
  guessMapping,
  itemReader,
  type Mapping,
  openRecords,
  parseCalendar,
  parseFeed,
  type RawRecord,
  SourceError,
  TELLING,
} from "~/core/sources";
import { type ColumnFacts, ColumnWatch, decodeText, type Encoding, EncodingFinder } from "~/core/tables";
import { Refusal } from "../refusal";

export interface DocumentAsked {
  /** Where the document lies, and to where its items are written. */
  file: string;
  to: string;
  /** The address it came from; null where somebody gave it by hand. */
  base: string | null;
  /** Milliseconds since 1970. */
  now: number;
  /** What it was when it was read last; told by its beginning when missing. */
  format?: Format;
  /** What its columns mean; guessed when missing. */
  mapping?: Mapping;
}

export interface DocumentRead {
  format: Format;
  /** What it calls itself; empty when it does not. */
  name: string;
  count: number;
  /** What it has for columns, by its first records; none of a feed or calendar. */
  columns: ColumnFacts[];
  mapping: Mapping | null;
  /** What was odd, each as a sentence that says where. */
  problems: string[];
}

/** So much of a file is read at a time, in octets. */
const PIECE = 256 * 1024;
/** So many octets a document may have, and one that is read whole. */
export const MOST_OCTETS_OF_ITEMS = 50_000_000;
export const MOST_WHOLE = { feed: 5_000_000, calendar: 10_000_000 } as const;
/** By so many records the columns are known. */
const TOLD_BY = 500;
/** So many oddities are told one by one. */
const MOST_TOLD = 12;

/** Reads a document. Is run confined. @throws Refusal that says what is wrong, and where */
export async function readDocument(asked: DocumentAsked): Promise<DocumentRead> {
  try {
    return await read(asked);
  } catch (error) {
    throw error instanceof SourceError ? new Refusal(error.message) : error;
  }
}

async function read(asked: DocumentAsked): Promise<DocumentRead> {
  const { encoding, octets } = await encodingOf(asked.file);
  const beginning = firstText(asked.file, encoding);
  // What was a feed is read as one, and says itself what it is not.
  const format = asked.format === "feed" ? "feed" : formatOf(beginning);
  if (asked.format !== undefined && format !== asked.format)
    throw new SourceError(
      `Until now it was ${FORMATS[asked.format]}, and now it is ${FORMATS[format]}. Add it as a source of its own.`,
    );
  const most = format === "feed" || format === "calendar" ? MOST_WHOLE[format] : undefined;
  if (most !== undefined && octets > most)
    throw new SourceError(`A ${FORMATS[format]} may have ${most / 1_000_000} MB, this one has more.`);
  const out = new ItemLines(asked.to);
  try {
    if (format === "feed" || format === "calendar") {
      const text = decodeText(await readFile(asked.file), encoding);
      const { title, items, problems } =
        format === "feed" ? parseFeed(text, asked.base) : parseCalendar(text, asked.base, asked.now);
      for (const item of items) out.write(item);
      return { format, name: title, count: out.count, columns: [], mapping: null, problems };
    }
    return readRecords(format, { ...asked, encoding, beginning }, out);
  } finally {
    out.close();
  }
}

function readRecords(
  format: Exclude<Format, "feed" | "calendar">,
  {
    file,
    base,
    now,
    encoding,
    beginning,
    mapping: given,
  }: DocumentAsked & { encoding: Encoding; beginning: string },
  out: ItemLines,
): DocumentRead {
  const year = new Date(now).getUTCFullYear();
  const columns = columnsOf(format, { file, encoding, beginning, year });
  if (columns.length === 0) throw new SourceError("There is nothing in it besides the names of its columns.");
  const mapping = given ?? guessMapping(columns);
  const itemOf = itemReader(mapping, base, year);
  const odd = new Oddities();
  const reader = openRecords(format, beginning, (problem) => odd.tell(problem));
  let surplus = 0;
  const take = (records: RawRecord[]) => {
    for (const record of records) {
      const made = itemOf(record);
      if ("reason" in made) odd.tell(`${record.where} ${made.reason} and is left out`);
      else if (out.count >= GREATEST.items) surplus++;
      else if (!out.write(made.item))
        odd.tell(`${record.where}: “${made.item.id}” is there twice, the first counts`);
      else for (const words of made.odd) odd.tell(`${record.where}: ${words}`);
    }
  };
  for (const text of textOf(file, encoding)) take(reader.push(text));
  take(reader.end());
  if (out.count === 0)
    throw new SourceError(`None of it could be read as an item. ${odd.problems().slice(0, 3).join("; ")}`);
  return {
    format,
    name: "",
    count: out.count,
    columns,
    mapping,
    problems: [
      ...(surplus > 0
        ? [
            `Only the first ${GREATEST.items.toLocaleString("en")} are kept, ${surplus.toLocaleString("en")} left out`,
          ]
        : []),
      ...odd.problems(),
    ],
  };
}

/** What a document has for columns, by its first records. */
function columnsOf(
  format: Exclude<Format, "feed" | "calendar">,
  { file, encoding, beginning, year }: { file: string; encoding: Encoding; beginning: string; year: number },
): ColumnFacts[] {
  const watches = new Map<string, ColumnWatch>();
  const reader = openRecords(format, beginning, () => undefined);
  let seen = 0;
  const watch = (records: RawRecord[]) => {
    for (const { cells } of records.slice(0, TOLD_BY - seen)) {
      for (const [name, cell] of cells) {
        const one = watches.get(name) ?? new ColumnWatch(name, year);
        watches.set(name, one);
        one.take(firstOf(cell));
      }
      seen++;
    }
  };
  let whole = true;
  for (const text of textOf(file, encoding)) {
    watch(reader.push(text));
    if (seen >= TOLD_BY) {
      whole = false;
      break;
    }
  }
  if (whole) watch(reader.end());
  return [...watches.values()].map((one) => one.facts());
}

/** What is told of a document: the first oddities one by one, and how many more there are. */
class Oddities {
  private readonly told: string[] = [];
  private more = 0;

  tell(problem: string): void {
    if (this.told.length < MOST_TOLD) this.told.push(problem);
    else this.more++;
  }

  problems(): string[] {
    return this.more === 0
      ? this.told
      : [...this.told, `and ${this.more.toLocaleString("en")} more like these`];
  }
}

/** Items written to a file, one in each line: its id, itself, and the words it is found by. */
class ItemLines {
  private readonly file: number;
  private readonly seen = new Set<string>();
  private lines: string[] = [];
  count = 0;

  constructor(to: string) {
    this.file = openSync(to, "w");
  }

  /** Whether it was written: one of each id is. */
  write(item: Item): boolean {
    if (this.seen.has(item.id)) return false;
    this.seen.add(item.id);
    this.lines.push(`${JSON.stringify([item.id, item, foundBy(item).join(" ")])}\n`);
    this.count++;
    if (this.lines.length >= 1000) this.flush();
    return true;
  }

  close(): void {
    this.flush();
    closeSync(this.file);
  }

  private flush(): void {
    writeSync(this.file, this.lines.join(""));
    this.lines = [];
  }
}

async function encodingOf(file: string): Promise<{ encoding: Encoding; octets: number }> {
  const finder = new EncodingFinder();
  const handle = await open(file);
  const { size: octets } = await handle.stat();
  for await (const piece of handle.createReadStream({ highWaterMark: PIECE })) finder.take(piece as Buffer);
  const found = finder.end();
  if ("problem" in found) throw new SourceError(`What it sent ${found.problem}`);
  return { encoding: found.encoding, octets };
}

/** The text of a file, piece by piece, without its byte order mark. */
function* textOf(file: string, encoding: Encoding): Generator<string> {
  const decoder = new TextDecoder(encoding);
  const handle = openSync(file, "r");
  const piece = Buffer.alloc(PIECE);
  try {
    for (;;) {
      const length = readSync(handle, piece, 0, PIECE, null);
      const text = decoder.decode(piece.subarray(0, length), { stream: length > 0 });
      if (text !== "") yield text;
      if (length === 0) return;
    }
  } finally {
    closeSync(handle);
  }
}

function firstText(file: string, encoding: Encoding): string {
  let text = "";
  for (const piece of textOf(file, encoding)) {
    text += piece;
    if (text.length >= TELLING) break;
  }
  return text.slice(0, TELLING);
}
