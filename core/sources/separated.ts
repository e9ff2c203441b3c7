/** Tables of separated values as records: CSV, TSV, whatever parts the cells. */
import { CsvReader, type CsvRecord, CsvTrouble, findDialect } from "../tables";
import { Cells, type RawRecord, type RecordReader, SourceError } from "./record";

/** Whether a first line names the columns: each in words, none twice. */
function namesColumns(cells: readonly string[]): boolean {
  const named = cells.map((cell) => cell.trim().toLowerCase()).filter((cell) => cell !== "");
  return (
    named.length > 0 &&
    new Set(named).size === named.length &&
    named.every(
      (name) => /\p{L}/u.test(name) && !/^https?:|^[\d.,\s]+\s?\p{L}{0,3}$/u.test(name) && name.length <= 300,
    )
  );
}

/** Reads a table; its dialect is told by its beginning. @throws SourceError when it is no table */
export function separatedReader(beginning: string): RecordReader {
  const { delimiter } = findDialect(beginning);
  const reader = new CsvReader(delimiter);
  let names: string[] | null = null;
  /** Whether all lines so far had as many cells as the first one. */
  let even = true;
  const recordOf = ({ line, cells }: CsvRecord): RawRecord => {
    const made = new Cells();
    for (const [at, name] of (names as string[]).entries())
      if ((cells[at] ?? "").trim() !== "") made.add(name, cells[at]);
    return { where: `Line ${line}`, cells: made.take() };
  };
  const taken = (records: CsvRecord[]): RawRecord[] => {
    const found: RawRecord[] = [];
    for (const record of records) {
      if (names === null) {
        const header = namesColumns(record.cells);
        names = record.cells.map((name, at) =>
          header && name.trim() !== "" ? name.trim() : `Column ${at + 1}`,
        );
        if (header) continue;
      }
      if (record.cells.length < names.length) even = false;
      found.push(recordOf(record));
    }
    return found;
  };
  const told = <T>(work: () => T): T => {
    try {
      return work();
    } catch (error) {
      if (error instanceof CsvTrouble) throw new SourceError(error.message);
      throw error;
    }
  };
  return {
    push: (text) => told(() => taken(reader.push(text))),
    end: () =>
      told(() => {
        const wasEven = even;
        const rest = reader.end();
        const width = names?.length ?? 0;
        // It has no line end, or it would not be left over.
        const [cut] = rest;
        if (cut && wasEven && width > 1 && cut.cells.length < width)
          throw new SourceError(
            `It stops half way: line ${cut.line} has ${cut.cells.length} of ${width} cells and no end. Try again later, or give the whole file.`,
          );
        return taken(rest);
      }),
  };
}
