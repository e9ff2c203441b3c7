import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
import { css, editMark, firstWords, writeInline } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("heading"),
  level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  content: z.array(InlineSchema),
  align: AlignSchema.optional(),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(80).optional(),
});
export type HeadingBlock = z.infer<typeof schema>;

export const heading: BlockType<HeadingBlock> = {
  type: "heading",
  label: "Heading",
  group: "words",
  words: "title headline",
  schema,
  create: (id) => ({ id, type: "heading", level: 2, content: [{ type: "text", text: "A heading" }] }),
  look: ["align", "color", "size"],
  html(block, context) {
    const { out, theme } = context;
    const tag = `h${block.level}` as const;
    const look = theme.headings[tag];
    const size = block.size ?? look.size;
    const style = css({
      margin: "0",
      "font-family": theme.fonts.heading,
      "font-size": `${size}px`,
      "line-height": `${Math.round(size * look.line)}px`,
      "mso-line-height-rule": "exactly",
      "font-weight": look.weight,
      color: block.color ?? theme.light.heading,
      "text-align": block.align ?? "left",
    });
    out.raw(`<${tag}${editMark(context, "line")}${block.color ? "" : ' class="d-head"'} style="${style}">`);
    writeInline(block.content, context);
    out.raw(`</${tag}>`);
  },
  text(block, context) {
    context.out.raw(block.level === 3 ? "" : block.level === 1 ? "== " : "-- ");
    writeInline(block.content, context);
    context.out.raw(block.level === 3 ? "\n\n" : block.level === 1 ? " ==\n\n" : " --\n\n");
  },
  places: () => [{ path: "content", kind: "line" }],
  title: (block) => firstWords(block.content) || "Empty heading",
};
