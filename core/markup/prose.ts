import {
  type Align,
  type Inline,
  inlineText,
  linesOf,
  type RichDoc,
  type RichNode,
  type Theme,
} from "../email";
import type { RenderContext } from "./context";
import { css, editMark } from "./html";
import { writeInline } from "./inline";

/** One-off departures from the theme's text. */
export interface ProseLook {
  size?: number;
  color?: string;
  align?: Align;
  /** Space between paragraphs in px. */
  gap?: number;
  twoColumns?: boolean;
}

/** The styles of running text by element. */
function proseStyles(theme: Theme, look: ProseLook): { text: string; gap: number; list: string } {
  const size = look.size ?? theme.text.size;
  return {
    text: css({
      "font-family": theme.fonts.body,
      "font-size": `${size}px`,
      "line-height": `${Math.round(size * theme.text.line)}px`,
      "mso-line-height-rule": "exactly",
      color: look.color ?? theme.light.text,
      "text-align": look.align ?? "left",
      // Two columns that become one by themselves where they would be too narrow.
      columns: look.twoColumns && "200px 2",
      "column-gap": look.twoColumns && `${theme.space.gap}px`,
    }),
    gap: look.gap ?? theme.text.gap,
    list: "padding:0 0 0 24px;",
  };
}

/** Writes paragraphs and lists as HTML. */
export function proseHtml(doc: RichDoc, look: ProseLook, context: RenderContext, key = "content"): void {
  const { out, theme } = context;
  const styles = proseStyles(theme, look);
  out.raw(
    `<div${editMark(context, "prose", key)}${look.color ? "" : ' class="d-text"'} style="${styles.text}">`,
  );
  nodesHtml(doc.content, styles, context);
  out.raw("</div>");
}

function nodesHtml(
  nodes: readonly RichNode[],
  styles: ReturnType<typeof proseStyles>,
  context: RenderContext,
): void {
  const { out } = context;
  for (const [index, node] of nodes.entries()) {
    const margin = `margin:0 0 ${index === nodes.length - 1 ? 0 : styles.gap}px;`;
    if (node.type === "paragraph") {
      const align = node.attrs?.align ? `text-align:${node.attrs.align};` : "";
      out.raw(`<p style="${margin}${align}">`);
      if (node.content && node.content.length > 0) writeInline(node.content, context);
      else out.raw("&nbsp;");
      out.raw("</p>");
    } else {
      const tag = node.type === "bulletList" ? "ul" : "ol";
      out.raw(`<${tag} style="${margin}${styles.list}">`);
      for (const item of node.content) {
        out.raw('<li style="margin:0 0 4px;">');
        nodesHtml(item.content, { ...styles, gap: 4 }, context);
        out.raw("</li>");
      }
      out.raw(`</${tag}>`);
    }
  }
}

/** Writes paragraphs and lists as text: an empty line between paragraphs, a mark before list items. */
export function proseText(nodes: readonly RichNode[], context: RenderContext, indent = ""): void {
  const { out } = context;
  for (const node of nodes) {
    if (node.type === "paragraph") {
      writeInline(node.content ?? [], context);
      out.raw(indent === "" ? "\n\n" : "\n");
    } else {
      for (const [index, item] of node.content.entries()) {
        out.raw(`${indent}${node.type === "bulletList" ? "-" : `${index + 1}.`} `);
        proseText(item.content, context, `${indent}  `);
      }
      if (indent === "") out.raw("\n");
    }
  }
}

/** The first words of a document, for the outline. */
export function firstWords(content: readonly Inline[]): string {
  const text = inlineText(content).trim();
  return text.length > 40 ? `${text.slice(0, 38).trimEnd()}…` : text;
}

/** The first words of the first line that has any. */
export function firstProse(doc: RichDoc): string {
  for (const line of linesOf(doc)) {
    const words = firstWords(line);
    if (words !== "") return words;
  }
  return "";
}
