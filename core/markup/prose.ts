import { type Align, type Inline, inlineText, linesOf, type RichDoc, type RichNode } from "../email";
import type { RenderContext } from "./context";
import { css, wordsMark } from "./html";
import { type Voice, writeInline } from "./inline";
import { lineStyle, runs } from "./line";
import { paddingOf, sideOf } from "./sides";
import { classAttribute, ink, type TextRole } from "./tone";

/** One-off departures from the theme's text. */
export interface ProseLook {
  size?: number;
  color?: string;
  /** The theme's colour that the words take without one of their own; that of text when missing. */
  role?: TextRole;
  /** The same for links. */
  links?: TextRole;
  align?: Align;
  /** Space between paragraphs in px. */
  gap?: number;
  twoColumns?: boolean;
}

interface ProseStyles {
  gap: number;
  align?: Align;
  voice: Voice;
}

/** Writes paragraphs and lists as HTML. */
export function proseHtml(doc: RichDoc, look: ProseLook, context: RenderContext, key = "content"): void {
  const { out, theme } = context;
  const size = look.size ?? theme.text.size;
  const voice: Voice = { role: look.role ?? "text", own: look.color, links: look.links };
  const { color, tone } = ink(voice.own, voice.role, context);
  const style = css({
    ...lineStyle({ size, lineHeight: Math.round(size * theme.text.line), align: look.align }, color, context),
    // Two columns that become one by themselves where they would be too narrow.
    columns: look.twoColumns && "200px 2",
    "column-gap": look.twoColumns && `${theme.space.gap}px`,
  });
  out.raw(`<div${wordsMark(context, "prose", key)}${classAttribute(tone)} style="${style}">`);
  nodesHtml(doc.content, { gap: look.gap ?? theme.text.gap, align: look.align, voice }, context);
  out.raw("</div>");
}

function nodesHtml(nodes: readonly RichNode[], styles: ProseStyles, context: RenderContext): void {
  const { out } = context;
  for (const [index, node] of nodes.entries()) {
    const margin = `0 0 ${index === nodes.length - 1 ? 0 : styles.gap}px`;
    if (node.type === "paragraph") {
      const { direction, attribute } = runs(node.content ?? [], context);
      // What runs the other way stands at the side where it begins, too.
      const own = node.attrs?.align ?? (attribute === "" ? undefined : (styles.align ?? "left"));
      const align = own && sideOf(own, { direction });
      out.raw(`<p${attribute} style="${css({ margin, "text-align": align })}">`);
      if (node.content && node.content.length > 0) writeInline(node.content, context, styles.voice);
      else out.raw("&nbsp;");
      out.raw("</p>");
    } else {
      const tag = node.type === "bulletList" ? "ul" : "ol";
      out.raw(`<${tag} style="${css({ margin, padding: paddingOf([0, 0, 0, 24], context) })}">`);
      for (const item of node.content) {
        out.raw('<li style="margin:0 0 4px;">');
        nodesHtml(item.content, { ...styles, gap: 4 }, context);
        out.raw("</li>");
      }
      out.raw(`</${tag}>`);
    }
  }
}

/**
 * Writes paragraphs and lists as text: an empty line between paragraphs, a mark before list items.
 * @param end writes what stands behind the last word
 */
export function proseText(
  nodes: readonly RichNode[],
  context: RenderContext,
  end?: () => void,
  indent = "",
): void {
  const { out } = context;
  for (const [at, node] of nodes.entries()) {
    const last = at === nodes.length - 1 ? end : undefined;
    if (node.type === "paragraph") {
      writeInline(node.content ?? [], context);
      last?.();
      out.raw(indent === "" ? "\n\n" : "\n");
    } else {
      for (const [index, item] of node.content.entries()) {
        out.raw(`${indent}${node.type === "bulletList" ? "-" : `${index + 1}.`} `);
        proseText(item.content, context, index === node.content.length - 1 ? last : undefined, `${indent}  `);
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
