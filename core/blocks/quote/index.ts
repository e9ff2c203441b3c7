import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema, RichDocSchema, richText } from "../../email";
import {
  classAttribute,
  css,
  edge,
  firstProse,
  paddingOf,
  proseHtml,
  proseText,
  sideOf,
  smallWords,
  TABLE,
  writeInline,
} from "../../markup";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("quote"),
  content: RichDocSchema,
  /** Who said it; empty leaves the line out. */
  source: z.array(InlineSchema),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(40).optional(),
  /** Colour of the bar beside it. */
  bar: ColorSchema.optional(),
});
export type QuoteBlock = z.infer<typeof schema>;

export const quote: BlockType<QuoteBlock> = {
  type: "quote",
  label: "Quote",
  group: "words",
  words: "citation testimonial said",
  schema,
  create: (id) => ({
    id,
    type: "quote",
    content: richText("What somebody said, in their words."),
    source: [{ type: "text", text: "Who said it" }],
  }),
  parts: [{ key: "source", label: "Who said it" }],
  look: ["size", "color", "bar"],
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? Math.round(theme.text.size * 1.2);
    const line = edge(block.bar, "accent", context);
    const side = sideOf("left", context);
    const bar = css({
      [`border-${side}`]: `4px solid ${line.color}`,
      padding: paddingOf([4, 0, 4, 18], context),
    });
    out.raw(`<table ${TABLE} width="100%"><tr><td${classAttribute(line.tone)} style="${bar}">`);
    proseHtml(block.content, { size, color: block.color }, context);
    if (shows(block, "source") && (block.source.length > 0 || context.marks))
      smallWords(block.source, "source", "left", context);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    context.out.raw("“");
    proseText(block.content.content, context, () => {
      context.out.raw("”");
      if (!shows(block, "source") || block.source.length === 0) return;
      context.out.raw(" - ");
      writeInline(block.source, context);
    });
  },
  places: () => [
    { path: "content", kind: "prose" },
    { path: "source", kind: "line" },
  ],
  title: (block) => firstProse(block.content) || "Empty quote",
};
