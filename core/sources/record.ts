/** One thing as a file has it, before anybody says what its columns mean. */
export interface RawRecord {
  /** Where it stands in the file, as a sentence begins: `Line 12`, or `Record 3` where lines say nothing. */
  where: string;
  /** By the names of the columns; several values where a file gives several. */
  cells: ReadonlyMap<string, string | readonly string[]>;
}

/** Reads the records of a text that comes in pieces, cut anywhere. */
export interface RecordReader {
  /** @throws SourceError from a line on which it cannot be read */
  push(text: string): RawRecord[];
  /** The last ones. @throws SourceError when the text stops half way */
  end(): RawRecord[];
}

/** A source that cannot be read. The message says what was found instead, where, and what to do. */
export class SourceError extends Error {
  override name = "SourceError";
}

/** So many columns a record may have, and so many values one of them. */
export const MOST_COLUMNS = 400;
export const MOST_VALUES = 50;
/** So much of a cell is kept, in UTF-16 units. */
export const LONGEST_CELL = 100_000;

/** The first value of a cell. */
export function firstOf(cell: string | readonly string[] | undefined): string {
  return (typeof cell === "string" ? cell : cell?.[0]) ?? "";
}

/** Takes values up one by one, within bounds. */
export class Cells {
  private readonly cells = new Map<string, string | string[]>();

  add(name: string, value: string): void {
    const text = value.length > LONGEST_CELL ? value.slice(0, LONGEST_CELL) : value;
    const before = this.cells.get(name);
    if (before === undefined) {
      if (this.cells.size < MOST_COLUMNS) this.cells.set(name, text);
    } else if (typeof before === "string") this.cells.set(name, [before, text]);
    else if (before.length < MOST_VALUES) before.push(text);
  }

  get size(): number {
    return this.cells.size;
  }

  take(): RawRecord["cells"] {
    return this.cells;
  }
}
