import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
import {
  classAttribute,
  css,
  firstWords,
  GlyphSchema,
  glyphImg,
  ink,
  itemShape,
  lineStyle,
  numbered,
  paddingOf,
  TABLE,
  withItemIds,
  wordsMark,
  writeInline,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("icons"),
  items: z.array(z.object({ ...itemShape, glyph: GlyphSchema, content: z.array(InlineSchema) })).max(20),
  /** Of the drawings, in px. */
  iconSize: z.number().min(14).max(64),
  iconColor: ColorSchema.optional(),
  /** Space between items in px. */
  gap: z.number().min(0).max(60),
  size: z.number().min(10).max(40).optional(),
  color: ColorSchema.optional(),
});
export type IconsBlock = z.infer<typeof schema>;

export const icons: BlockType<IconsBlock> = {
  type: "icons",
  label: "Icon list",
  group: "words",
  words: "list icons points checks benefits",
  schema,
  create: (id) => ({
    id,
    type: "icons",
    items: numbered(
      ["The first good reason", "The second one", "And the third"].map((text) => ({
        glyph: "check" as const,
        content: [{ type: "text" as const, text }],
      })),
    ),
    iconSize: 22,
    gap: 10,
  }),
  look: ["iconSize", "iconColor", "gap", "size", "color"],
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? theme.text.size;
    const line = Math.max(block.iconSize, Math.round(size * theme.text.line));
    const { color, tone } = ink(block.color, "text", context);
    out.raw(`<table ${TABLE} width="100%">`);
    for (const [index, item] of block.items.entries()) {
      const below = index === block.items.length - 1 ? 0 : block.gap;
      const icon = css({
        padding: paddingOf([0, 12, below, 0], context),
        "font-size": "0",
        "line-height": `${line}px`,
      });
      const words = css({
        padding: paddingOf([0, 0, below, 0], context),
        ...lineStyle({ size, lineHeight: line }, color, context),
      });
      out.raw(`<tr><td width="${block.iconSize + 12}" valign="top" style="${icon}">`);
      out.raw(glyphImg({ name: item.glyph, own: block.iconColor, size: block.iconSize }, context));
      out.raw(
        `</td><td valign="top"${classAttribute(tone)}${wordsMark(context, "line", `items/${item.id}/content`)} style="${words}">`,
      );
      writeInline(item.content, context, { role: "text", own: block.color });
      out.raw("</td></tr>");
    }
    out.raw("</table>");
  },
  text(block, context) {
    for (const item of block.items) {
      context.out.raw("* ");
      writeInline(item.content, context);
      context.out.raw("\n");
    }
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  places: (block) => block.items.map(({ id }) => ({ path: `items/${id}/content`, kind: "line" })),
  title: (block) => firstWords(block.items[0]?.content ?? []) || "Icon list",
};
