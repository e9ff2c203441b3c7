import { marked } from "marked";
import { type Piece, readHtml } from "./html";

/** Reads Markdown (CommonMark with tables and strike-through); HTML inside it is read as writing too. */
export function readMarkdown(text: string): Piece[] {
  return readHtml(marked.parse(text, { async: false, gfm: true }));
}
