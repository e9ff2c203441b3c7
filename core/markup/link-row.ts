import { z } from "zod";
import { type Align, AlignSchema, ColorSchema } from "../email";
import type { RenderContext } from "./context";
import { GLYPH_NAMES, type GlyphName, glyphImg } from "./glyphs";
import { css } from "./html";
import { hrefOf, textTarget } from "./targets";

export const GlyphSchema = z.enum(GLYPH_NAMES);

/** How a row of links with drawings looks. */
export const linkRowShape = {
  display: z.enum(["drawings", "words", "both"]),
  align: AlignSchema,
  color: ColorSchema.optional(),
  /** Of the drawings, in px. */
  size: z.number().min(16).max(64),
};
interface LinkRowLook {
  display: "drawings" | "words" | "both";
  align: Align;
  color?: string;
  size: number;
}
export interface RowLink {
  glyph: GlyphName;
  label: string;
  href: string;
}

/** Writes links in a row that wraps by itself, each at least 44 px high. */
export function linkRowHtml(links: readonly RowLink[], look: LinkRowLook, context: RenderContext): void {
  const { out, theme } = context;
  const color = look.color ?? theme.light.link;
  const line = css({ margin: "0", "font-size": "0", "text-align": look.align });
  const pad = Math.max(6, Math.round((44 - look.size) / 2));
  const style = css({
    display: "inline-block",
    padding: `${pad}px ${look.display === "drawings" ? pad : 12}px`,
    "font-family": theme.fonts.body,
    "font-size": "14px",
    "line-height": `${Math.max(look.size, 20)}px`,
    color,
    "text-decoration": "none",
  });
  out.raw(`<p style="${line}">`);
  for (const link of links) {
    const dark = look.color || look.display === "drawings" ? "" : ' class="d-link"';
    out.raw(`<a href="${hrefOf(link.href, context)}"${dark} style="${style}">`);
    if (look.display !== "words") {
      const alt = look.display === "drawings" ? link.label : undefined;
      out.raw(glyphImg({ name: link.glyph, color, size: look.size, alt, themed: !look.color }, context));
    }
    if (look.display === "both") out.raw("&nbsp; ");
    if (look.display !== "drawings") out.escaped(link.label);
    out.raw("</a>");
  }
  out.raw("</p>");
}

/** Writes a label with the address it leads to on a line of its own. */
export function linkText(label: string, href: string, context: RenderContext): void {
  context.out.raw(`${label}${textTarget(href, context, "colon")}\n`);
}
