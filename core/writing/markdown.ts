import { type Piece, readHtml } from "./html";

/**
 * Reads Markdown (CommonMark with tables and strike-through); HTML inside it is read as writing too. The parser comes
 * when it is first needed.
 */
export async function readMarkdown(text: string): Promise<Piece[]> {
  const { marked } = await import("marked");
  return readHtml(marked.parse(text, { async: false, gfm: true }));
}
