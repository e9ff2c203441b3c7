/** The editors of words. They are large, and come once the email stands on the table: see `load.ts`. */
export { editInPlace } from "../canvas/text-editing";
export { mountLine } from "./envelope-line";
export { mountLetter } from "./letter";
export { mountProse, mountWords, type WordsEditor } from "./words-editor";
