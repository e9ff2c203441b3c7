import { type Piece, readHtml } from "./html";
import { readMarkdown } from "./markdown";

/** What only those write who write Markdown (CommonMark, and the tables of GFM). */
const MARKDOWN =
  /^#{1,6} \S|^(?:[-*+]|\d+[.)]) \S.*\n(?:[-*+]|\d+[.)]) \S|\*\*\S[^*\n]*\*\*|\[[^\]\n]+\]\(\S+\)|^\|.+\|\s*\n\|[ :|-]+\||^> \S|^```/m;
/** HTML that says what its parts are, and not only how they look. */
const TELLING = /<(h[1-6]|ul|ol|li|table|strong|b|em|i|a|blockquote)\b/i;

/**
 * What was pasted among words, where it is more than words: a table of a spreadsheet, or Markdown. Null where it is
 * neither, and a text takes it as it is.
 */
export function piecesPasted(html: string, text: string): Promise<Piece[]> | null {
  if (/<table\b/i.test(html)) {
    const pieces = readHtml(html);
    return pieces.some(({ kind }) => kind === "table") ? Promise.resolve(pieces) : null;
  }
  if (TELLING.test(html)) return null;
  const rows = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
  if (rows.length > 1 && rows.every((row) => row.includes("\t"))) return Promise.resolve([sheet(rows)]);
  return MARKDOWN.test(text) ? readMarkdown(text) : null;
}

/** Rows of cells with tabs between them, as spreadsheets put them on the clipboard; the first says what the columns are. */
function sheet(rows: readonly string[]): Piece {
  const cells = rows.map((row) => row.split("\t").map((cell) => cell.trim()));
  return {
    kind: "table",
    header: true,
    rows: cells.map((row) => row.map((text) => (text === "" ? [] : [{ type: "text", text }]))),
  };
}
