/** The editors of words. They are large, and come once the email stands on the table: see `load.ts`. */
export { type MountedWords, mountWords, type WordsToMount } from "./mount";
export { editInPlace } from "./on-canvas";
