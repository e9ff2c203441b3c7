/**
 * From writing to design: text, Markdown and HTML become blocks.
 *
 * `readHtml`, `readMarkdown` and `readText` give `Piece`s, what was written without any look; `blocksFrom` makes
 * blocks of them; `cleanPaste` makes what a word processor put on the clipboard fit for a text.
 */
export { blocksFrom } from "./blocks";
export { type Piece, readHtml } from "./html";
export { MARK_OF, tidy } from "./inline";
export { readMarkdown } from "./markdown";
export { cleanPaste } from "./paste";
export { piecesPasted } from "./pasted";
export { readText } from "./text";
