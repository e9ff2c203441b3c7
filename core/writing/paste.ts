import type { Inline, RichNode } from "../email";
import { TOGGLE_ELEMENTS } from "../markup";
import { escapeHtml } from "../program";
import { type Piece, readHtml } from "./html";

/**
 * What was copied elsewhere, as the simple HTML that a text can hold: paragraphs, lists, line breaks and the marks of
 * words. Headings become bold paragraphs, tables lines; pictures and looks are left out.
 */
export function cleanPaste(html: string): string {
  return readHtml(html).map(pieceHtml).join("");
}

function pieceHtml(piece: Piece): string {
  switch (piece.kind) {
    case "heading":
      return `<p><strong>${inlineHtml(piece.content)}</strong></p>`;
    case "words":
    case "quote":
      return piece.nodes.map(nodeHtml).join("");
    case "button":
      return `<p><a href="${escapeHtml(piece.href)}">${inlineHtml(piece.content)}</a></p>`;
    case "table":
      return piece.rows.map((row) => `<p>${row.map(inlineHtml).join(" | ")}</p>`).join("");
    default:
      return "";
  }
}

function nodeHtml(node: RichNode): string {
  if (node.type === "paragraph") {
    const align = node.attrs?.align ? ` style="text-align:${node.attrs.align}"` : "";
    return `<p${align}>${inlineHtml(node.content ?? [])}</p>`;
  }
  const tag = node.type === "bulletList" ? "ul" : "ol";
  return `<${tag}>${node.content.map((item) => `<li>${item.content.map(nodeHtml).join("")}</li>`).join("")}</${tag}>`;
}

function inlineHtml(content: readonly Inline[]): string {
  return content
    .map((it) => {
      let html = it.type === "text" ? escapeHtml(it.text) : it.type === "hardBreak" ? "<br>" : "";
      for (const mark of it.marks ?? []) {
        if (mark.type === "style") continue;
        html =
          mark.type === "link"
            ? `<a href="${escapeHtml(mark.attrs.href)}">${html}</a>`
            : `<${TOGGLE_ELEMENTS[mark.type]}>${html}</${TOGGLE_ELEMENTS[mark.type]}>`;
      }
      return html;
    })
    .join("");
}
