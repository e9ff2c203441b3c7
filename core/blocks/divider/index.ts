import { z } from "zod";
import { BlockBaseSchema, ColorSchema } from "../../email";
import { classAttribute, css, edge, TABLE } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("divider"),
  /** Thickness in px. */
  thickness: z.number().min(1).max(20),
  style: z.enum(["solid", "dashed", "dotted"]),
  color: ColorSchema.optional(),
  /** Share of the available width in percent. */
  width: z.number().min(5).max(100),
});
export type DividerBlock = z.infer<typeof schema>;

export const divider: BlockType<DividerBlock> = {
  type: "divider",
  label: "Divider",
  group: "layout",
  words: "line rule separator",
  schema,
  create: (id) => ({ id, type: "divider", thickness: 1, style: "solid", width: 100 }),
  look: ["thickness", "style", "color", "width"],
  html(block, context) {
    const line = edge(block.color, "line", context);
    const style = css({
      "border-top": `${block.thickness}px ${block.style} ${line.color}`,
      "font-size": "0",
      "line-height": "0",
    });
    context.out.raw(
      `<table ${TABLE} width="${block.width}%" align="center"><tr><td${classAttribute(line.tone)} style="${style}">&nbsp;</td></tr></table>`,
    );
  },
  text(_, { out }) {
    out.raw("----------------------------------------\n\n");
  },
  places: () => [],
  title: () => "Divider",
};
