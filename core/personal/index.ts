/**
 * Program + reader -> message.
 *
 * `bind` fills a program with live content and readies its rules; `personalise` makes one reader's `Message`;
 * `freeze` keeps a bound program as data, from which `thaw` makes the same messages later;
 * `editionCounter` finds the distinct messages of a whole audience from its answers, `editions` those of contacts at hand; `runBytes` runs one part straight into bytes.
 */
export { type Bound, type BoundList, bind, bindPart, partsOf, type Runnable, type World } from "./bind";
export { type BytePart, ByteSink, bytePart, runBytes } from "./bytes";
export {
  type Edition,
  type EditionCount,
  editionCounter,
  editionQuestions,
  hasWords,
} from "./editions";
export {
  type FrozenProgram,
  type FrozenReader,
  frozenContact,
  type Keeper,
  keeperOf,
  thaw,
} from "./frozen";
export { editions, joinSame } from "./merged";
export { withoutData } from "./neutral";
export { type Message, personalise, run, textOf } from "./personalise";
export { caseReason, type Telling, tagReason } from "./reasons";
export { type Around, caseFor, caseWordsFor, lineSaid, tagSaid, typedSaid } from "./said-to";
export { editionWords } from "./traits";
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
