/**
 * Tables as programs write them to files: separated values in any dialect and encoding.
 *
 * `EncodingFinder` and `findDialect` tell how a file is written, `CsvReader` reads it piece by piece, a `ColumnWatch` tells
 * what stands in a column, and `readNumber`, `readDate` and `readBoolean` read single cells.
 */
export { CsvReader, type CsvRecord, CsvTrouble } from "./csv-reader";
export { type Dialect, findDialect } from "./dialect";
export { DECODERS, decodeText, type Encoding, EncodingFinder } from "./encoding";
export { keyFor } from "./key";
export { type DateOrder, readBoolean, readDate, readNumber } from "./read-value";
export { type ColumnFacts, ColumnWatch } from "./watch";
