import { isAddress } from "../audience";
import { CsvReader, type CsvRecord, CsvTrouble } from "./csv-reader";

export interface Dialect {
  delimiter: "," | ";" | "\t" | "|";
  /** Whether the first line names the columns. */
  header: boolean;
}

const DELIMITERS = [",", ";", "\t", "|"] as const;
/** So many records tell. */
const TOLD_BY = 60;

/** The first records of a text that may be cut. */
function firstRecords(text: string, delimiter: string): CsvRecord[] {
  const reader = new CsvReader(delimiter);
  try {
    const records = reader.push(text);
    // The last one may be cut off, unless it is all there is.
    return records.length > 0 ? records.slice(0, TOLD_BY) : reader.end();
  } catch (error) {
    if (error instanceof CsvTrouble) return [];
    throw error;
  }
}

/** How a file of values is written, by its beginning. */
export function findDialect(beginning: string): Dialect {
  const tried = DELIMITERS.map((delimiter) => {
    const records = firstRecords(beginning, delimiter);
    const widths = new Map<number, number>();
    for (const { cells } of records) widths.set(cells.length, (widths.get(cells.length) ?? 0) + 1);
    const [width = 1, times = 0] = [...widths].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0] ?? [];
    // What parts all lines into as many cells is it; one cell is what everything comes to.
    const agreement = width > 1 ? times / records.length : 0;
    // A mark left within a cell says that it was cut in the wrong place.
    const marked = records.filter(({ cells }) => cells.some((cell) => cell.includes('"'))).length;
    const whole = 1 - marked / Math.max(1, records.length);
    return { delimiter, records, score: agreement * whole * (1 + Math.min(width, 20) / 100) };
  });
  const best = tried.reduce((one, other) => (other.score > one.score ? other : one));
  return { delimiter: best.delimiter, header: hasHeader(best.records) };
}

const NUMBERS = /^[\d\s.,:/+-]+$/;

/** Names of columns are words, each once, and none of them is an address. */
function hasHeader(records: readonly CsvRecord[]): boolean {
  const [first, ...rest] = records.map(({ cells }) => cells.map((cell) => cell.trim()));
  if (!first) return true;
  if (first.some((cell) => isAddress(cell) || (cell !== "" && NUMBERS.test(cell)))) return false;
  // Below names there are addresses; a file without any has a header if it is not like all the other lines.
  if (rest.some((cells) => cells.some(isAddress))) return true;
  return rest.length > 0 || first.some((cell) => /mail|name|vorname|nom|adres/i.test(cell));
}
