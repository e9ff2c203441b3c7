/**
 * Program + reader -> message.
 *
 * `bind` fills a program with live content and readies its rules; `personalise` makes one reader's `Message`;
 * `countEditions` finds the distinct messages of a whole audience from its answers, `editions` those of contacts at hand; `runBytes` runs one part straight into bytes.
 */
export { type Bound, bind, bindPart, type World } from "./bind";
export { type ByteEncoder, type BytePart, ByteSink, bytePart, runBytes } from "./bytes";
export {
  countEditions,
  type Edition,
  type EditionAnswers,
  type EditionCount,
  type EditionQuestions,
  editionQuestions,
  editions,
} from "./editions";
export { type Message, personalise, run, textOf } from "./personalise";
export { previewAddresses, type Reader, readerOf, readerValue, type SystemAddresses } from "./value";
