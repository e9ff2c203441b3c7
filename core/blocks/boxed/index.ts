import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema, RichDocSchema, richText } from "../../email";
import { css, firstProse, proseHtml, proseText, TABLE } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("boxed"),
  content: RichDocSchema,
  align: AlignSchema.optional(),
  color: ColorSchema.optional(),
  size: z.number().min(10).max(40).optional(),
  face: ColorSchema.optional(),
  edge: ColorSchema.optional(),
  /** Width of the edge in px; none at 0. */
  edgeWidth: z.number().min(0).max(10),
  radius: z.number().min(0).max(60),
  /** Space between edge and words in px. */
  inside: z.number().min(0).max(80),
});
export type BoxedBlock = z.infer<typeof schema>;

export const boxed: BlockType<BoxedBlock> = {
  type: "boxed",
  label: "Boxed text",
  group: "words",
  words: "box note panel callout",
  schema,
  create: (id) => ({
    id,
    type: "boxed",
    content: richText("Something to set apart from the rest."),
    edgeWidth: 1,
    radius: 6,
    inside: 20,
  }),
  look: ["align", "color", "size", "face", "edge", "edgeWidth", "radius", "inside"],
  html(block, context) {
    const { out, theme } = context;
    const face = block.face ?? theme.light.table;
    const style = css({
      "background-color": face,
      border: block.edgeWidth > 0 && `${block.edgeWidth}px solid ${block.edge ?? theme.light.line}`,
      "border-radius": `${block.radius}px`,
      padding: `${block.inside}px`,
    });
    const dark = `${block.face ? "" : "d-table"} ${block.edge ? "" : "d-line"}`.trim();
    out.raw(`<table ${TABLE} width="100%"><tr><td class="${dark}" bgcolor="${face}" style="${style}">`);
    proseHtml(block.content, block, context);
    out.raw("</td></tr></table>");
  },
  text: (block, context) => proseText(block.content.content, context),
  places: () => [{ path: "content", kind: "prose" }],
  title: (block) => firstProse(block.content) || "Empty box",
};
