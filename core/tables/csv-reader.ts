/**
 * Reads comma-separated values piece by piece (RFC 4180, and what programs really write). By hand, since the packages for
 * it put no bound on the cells of one line, of which a hostile file has 60 million, and do not say in which line a
 * quotation mark was opened that is never closed.
 */

export interface CsvRecord {
  /** The line of the file on which it begins, from 1. */
  line: number;
  cells: string[];
}

/** The file cannot be read on from a line. */
export class CsvTrouble extends Error {
  override name = "CsvTrouble";
  constructor(
    readonly line: number,
    message: string,
  ) {
    super(message);
  }
}

/** So long a cell may be, in UTF-16 units: longer, and a quotation mark was not closed. */
const LONGEST_CELL = 4_000_000;
/** So many cells a line may have, and so long it may be with all of them, in UTF-16 units. */
const MOST_CELLS = 20_000;
const LONGEST_LINE = 16_000_000;

const QUOTE = 34;
const LF = 10;
const CR = 13;

/**
 * Gives the records of a text that comes in pieces, which may be cut anywhere. Lines may end with CR LF, LF or CR, also
 * in the same file; a cell in quotation marks may hold all of them. Records of nothing are left out.
 */
export class CsvReader {
  private line = 1;
  private begun = 1;
  private cells: string[] = [];
  private cell = "";
  /** How long the cells of the line are so far. */
  private length = 0;
  /** Where in a cell it is: at its beginning, in words, within quotation marks, or right after one that may close them. */
  private state: "start" | "bare" | "quoted" | "closed" = "start";
  private opened = 1;
  private afterCr = false;
  private readonly delimiter: number;

  constructor(delimiter: string) {
    this.delimiter = delimiter.charCodeAt(0);
  }

  /**
   * Takes the next piece.
   * @throws CsvTrouble when a cell does not end
   */
  push(text: string): CsvRecord[] {
    const records: CsvRecord[] = [];
    let from = 0;
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      if (this.afterCr) {
        this.afterCr = false;
        if (code === LF) {
          from = at + 1;
          continue;
        }
      }
      if (this.state === "quoted") {
        if (code === QUOTE) {
          this.cell += text.slice(from, at);
          from = at + 1;
          this.state = "closed";
        } else if (code === LF || (code === CR && text.charCodeAt(at + 1) !== LF)) this.line += 1;
        if (this.cell.length + at - from > LONGEST_CELL) this.endless();
        continue;
      }
      if (code === QUOTE && this.state === "closed") {
        // Two of them stand for one.
        this.cell += '"';
        from = at + 1;
        this.state = "quoted";
        continue;
      }
      if (code === QUOTE && this.state === "start") {
        this.state = "quoted";
        this.opened = this.line;
        from = at + 1;
        continue;
      }
      if (code === this.delimiter || code === LF || code === CR) {
        this.take(this.cell + text.slice(from, at));
        this.state = "start";
        from = at + 1;
        if (code === this.delimiter) continue;
        this.afterCr = code === CR;
        this.endRecord(records);
        this.line += 1;
        this.begun = this.line;
        continue;
      }
      // What stands after a closed cell belongs to it: programs that do not double their marks write so.
      if (this.state !== "bare") this.state = "bare";
      if (this.cell.length + at - from > LONGEST_CELL) this.endless();
    }
    this.cell += text.slice(from);
    return records;
  }

  /**
   * The last record, which may have no line end.
   * @throws CsvTrouble when quotation marks are still open
   */
  end(): CsvRecord[] {
    if (this.state === "quoted")
      throw new CsvTrouble(
        this.opened,
        `The quotation mark that opens in line ${this.opened} is never closed, so nothing after it can be told apart.`,
      );
    const records: CsvRecord[] = [];
    if (this.cell !== "" || this.cells.length > 0 || this.state === "closed") {
      this.take(this.cell);
      this.endRecord(records);
    }
    return records;
  }

  private take(cell: string): void {
    this.cells.push(cell);
    this.length += cell.length;
    this.cell = "";
    if (this.cells.length > MOST_CELLS)
      throw new CsvTrouble(
        this.begun,
        `Line ${this.begun} has more than ${MOST_CELLS.toLocaleString("en")} cells.`,
      );
    if (this.length > LONGEST_LINE)
      throw new CsvTrouble(
        this.begun,
        `Line ${this.begun} has more than ${LONGEST_LINE.toLocaleString("en")} characters.`,
      );
  }

  private endRecord(records: CsvRecord[]): void {
    if (this.cells.some((cell) => cell !== "")) records.push({ line: this.begun, cells: this.cells });
    this.cells = [];
    this.length = 0;
  }

  private endless(): never {
    const line = this.state === "quoted" ? this.opened : this.line;
    throw new CsvTrouble(
      line,
      this.state === "quoted"
        ? `The quotation mark that opens in line ${line} is not closed within ${LONGEST_CELL.toLocaleString("en")} characters.`
        : `A cell in line ${line} has more than ${LONGEST_CELL.toLocaleString("en")} characters.`,
    );
  }
}
