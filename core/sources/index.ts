/**
 * What sources deliver, read into items.
 *
 * `formatOf` tells what a document is. `parseFeed` and `parseCalendar` read a whole one; catalogues and records of any
 * shape pass piece by piece: `openRecords` gives raw records, `guessMapping` says what their columns may mean, and
 * `itemReader` makes an item of each. `readCodes` reads the codes a shop gives out.
 */
export { fetchedFrom, parseCalendar } from "./calendar";
export { type CodeList, readCodes } from "./codes";
export { parseFeed } from "./feed";
export { FORMATS, type Format, formatOf, TELLING } from "./format";
export { type ItemRead, itemReader } from "./item-reader";
export {
  type ColumnTarget,
  factsOfSource,
  guessMapping,
  ITEM_PARTS,
  type ItemPart,
  isCatalogue,
  type Mapping,
  MappingSchema,
} from "./mapping";
export { openRecords } from "./open";
export { htmlToPlain } from "./plain";
export { firstOf, type RawRecord, type RecordReader, SourceError } from "./record";
export { GREATEST } from "./sound";
