/**
 * Program + reader -> message.
 *
 * `bind` fills a program with live content and readies its rules; `personalise` makes one reader's `Message`;
 * `editions` finds the distinct messages of a whole audience; `runBytes` runs one part straight into bytes.
 */
export { type Bound, bind, bindPart, type World } from "./bind";
export { type ByteEncoder, type BytePart, ByteSink, bytePart, runBytes } from "./bytes";
export { type Edition, editions } from "./editions";
export { type Message, personalise, run, textOf } from "./personalise";
export { previewAddresses, type Reader, readerOf, readerValue, type SystemAddresses } from "./value";
