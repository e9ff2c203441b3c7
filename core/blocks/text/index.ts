import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema, RichDocSchema, richText } from "../../email";
import { firstProse, proseHtml, proseText } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("text"),
  content: RichDocSchema,
  align: AlignSchema.optional(),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(40).optional(),
  /** Set in two columns where there is room for both. */
  twoColumns: z.boolean().optional(),
  /** Space between paragraphs in px; from the theme when missing. */
  gap: z.number().min(0).max(80).optional(),
});
export type TextBlock = z.infer<typeof schema>;

export const text: BlockType<TextBlock> = {
  type: "text",
  label: "Text",
  group: "words",
  words: "paragraph list words",
  schema,
  create: (id) => ({ id, type: "text", content: richText("Write something worth opening.") }),
  look: ["align", "color", "size", "twoColumns", "gap"],
  html: (block, context) => proseHtml(block.content, block, context),
  text: (block, context) => proseText(block.content.content, context),
  places: () => [{ path: "content", kind: "prose" }],
  title: (block) => firstProse(block.content) || "Empty text",
};
