/**
 * Marks in a text part for what is settled only when a reader's words are known: numbers of links and the widths of
 * columns. They are control characters, which no value holds.
 */
export const LINK_START = "\u0011";
export const LINK_END = "\u0012";
/** Begins a line that is a row of a table. */
export const ROW = "\u0013";
/** Parts the cells of a row. */
export const CELL = "\u0014";

/** Stands for the number of an address that is listed at the end. */
export function numberedMark(address: string): string {
  return `${LINK_START}${address}${LINK_END}`;
}

/** Before and behind the number of what is written there, in raw text of a writer. */
export const INSERT = "\u0015";

export const insertMark = (index: number): string => `${INSERT}${index}${INSERT}`;
