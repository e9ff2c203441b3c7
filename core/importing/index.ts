/**
 * Contacts as people have them: files of comma-separated values and vCards, whatever program wrote them.
 *
 * `findEncoding` and `findDialect` tell how a file is written, `CsvReader` reads it piece by piece, `guessColumns` says
 * what its columns may mean, and `lineReader` makes of each line what a contact is given, or says why not.
 */
export { CsvReader, type CsvRecord, CsvTrouble } from "./csv-reader";
export { findDialect } from "./dialect";
export { DECODERS, decodeText, type Encoding, EncodingFinder } from "./encoding";
export { type ColumnFacts, ColumnWatch, guessColumns, statusTarget } from "./guess";
export { type ImportCounts, Tally, wantedFrom } from "./merge";
export {
  type Given,
  keyFor,
  type LineRead,
  lineReader,
  newFieldsOf,
  type Plan,
  PlanSchema,
  type StatusWord,
  type Target,
} from "./plan";
export { readBoolean, readDate, readNumber } from "./read-value";
export { isTurned, type Meaning, MOST_WORDS, readStatus } from "./status";
export { CARD_COLUMNS, cardsAsRecords, isCards } from "./vcard";
