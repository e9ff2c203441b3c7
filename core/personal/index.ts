/**
 * Program + reader -> message.
 *
 * `bind` fills a program with live content and readies its rules; `personalise` makes one reader's `Message`;
 * `editionCounter` finds the distinct messages of a whole audience from its answers, `editions` those of contacts at hand; `runBytes` runs one part straight into bytes.
 */
export { type Bound, bind, bindPart, partsOf, type World } from "./bind";
export { type ByteEncoder, type BytePart, ByteSink, bytePart, runBytes } from "./bytes";
export {
  type Edition,
  type EditionAnswers,
  type EditionCount,
  type EditionCounter,
  type EditionQuestions,
  editionCounter,
  editionQuestions,
  hasWords,
} from "./editions";
export { editions, joinSame } from "./merged";
export { nameOfData, withoutData } from "./neutral";
export { type Message, personalise, run, textOf } from "./personalise";
export { type EditionWords, editionWords } from "./traits";
export {
  batchOf,
  isCode,
  previewAddresses,
  type Reader,
  readerOf,
  readerValue,
  type SystemAddresses,
  tagValue,
} from "./value";
