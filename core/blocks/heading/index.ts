import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
import { firstWords, headingLook, lineHtml, writeInline } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("heading"),
  level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  /** What screen readers are told, 1 to 4; by its place when missing. `level` is the look. */
  outline: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]).optional(),
  content: z.array(InlineSchema),
  align: AlignSchema.optional(),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(140).optional(),
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
  heading: (block) => block.level,
  outline: (block) => block.outline,
  html(block, context) {
    lineHtml(
      block.content,
      {
        element: `h${context.level}`,
        own: block.color,
        ...headingLook(block.level, context, block.size),
        align: block.align,
        key: "content",
      },
      context,
    );
  },
  text(block, context) {
    context.out.raw(block.level === 3 ? "" : block.level === 1 ? "== " : "-- ");
    writeInline(block.content, context);
    context.out.raw(block.level === 3 ? "\n\n" : block.level === 1 ? " ==\n\n" : " --\n\n");
  },
  places: () => [{ path: "content", kind: "line" }],
  title: (block) => firstWords(block.content) || "Empty heading",
};
