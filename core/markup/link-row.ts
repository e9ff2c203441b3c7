import { z } from "zod";
import { type Align, whenAddress } from "../email";
import type { RenderContext } from "./context";
import { GLYPH_NAMES, type GlyphName, glyphImg, squareImg } from "./glyphs";
import { css, TABLE } from "./html";
import { sideOf, tableAt } from "./sides";
import { hrefOf, textTarget } from "./targets";
import { classAttribute, ink } from "./tone";

export const GlyphSchema = z.enum(GLYPH_NAMES);

/** How a row of links with drawings looks; its size is that of the drawings, in px. */
interface LinkRowLook {
  display: "drawings" | "words" | "both";
  align: Align;
  color?: string;
  size: number;
}
export interface RowLink {
  glyph: GlyphName;
  /** The address of one in place of the drawing, square. */
  picture?: string;
  label: string;
  href: string;
}

/**
 * Writes links in a row that wraps by itself, each at least 44 px high. Between them stand spaces, and in the
 * word-processor engine cells, so that their words are not run together where there is no padding.
 */
export function rowHtml(
  links: readonly { href: string; tone: string; style: string; write(): void }[],
  align: Align,
  context: RenderContext,
): void {
  const { out } = context;
  const side = sideOf(align, context);
  out.raw(`<div style="${css({ "text-align": side, "font-size": "14px", "line-height": "28px" })}">`);
  const place = tableAt(align, context);
  out.raw(`<!--[if mso]>${place.open}<table ${TABLE}${place.align}><tr><![endif]-->`);
  for (const [index, link] of links.entries()) {
    whenAddress(link.href, "link", context, () => {
      if (index > 0) out.raw(" ");
      out.raw('<!--[if mso]><td style="padding:8px 12px;"><![endif]-->');
      out.raw(`<a href="${hrefOf(link.href, context)}"${classAttribute(link.tone)} style="${link.style}">`);
      link.write();
      out.raw("</a><!--[if mso]></td><![endif]-->");
    });
  }
  out.raw(`<!--[if mso]></tr></table>${place.close}<![endif]--></div>`);
}

/** Writes links with drawings, words or both. */
export function linkRowHtml(links: readonly RowLink[], look: LinkRowLook, context: RenderContext): void {
  const { out, theme } = context;
  const { color, tone } = ink(look.color, "link", context);
  const pad = Math.max(6, Math.round((44 - look.size) / 2));
  const style = css({
    display: "inline-block",
    padding: `${pad}px ${look.display === "drawings" ? pad : 10}px`,
    "font-family": theme.fonts.body,
    "font-size": "14px",
    "line-height": `${Math.max(look.size, 20)}px`,
    color,
    "text-decoration": "none",
  });
  rowHtml(
    links.map(({ glyph, picture, label, href }) => ({
      href,
      tone,
      style,
      write() {
        const alt = look.display === "drawings" ? label : undefined;
        if (look.display !== "words" && picture) out.raw(squareImg(picture, look.size, alt, context));
        else if (look.display !== "words")
          out.raw(glyphImg({ name: glyph, own: look.color, size: look.size, alt }, context));
        if (look.display === "both") out.raw("&nbsp; ");
        if (look.display !== "drawings") out.escaped(label);
      },
    })),
    look.align,
    context,
  );
}

/** Writes a label with the address it leads to on a line of its own. */
export function linkText(label: string, href: string, context: RenderContext): void {
  whenAddress(href, "textLink", context, () =>
    context.out.raw(`${label}${textTarget(href, context, "colon")}\n`),
  );
}
