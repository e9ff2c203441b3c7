import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema, RichDocSchema, richText } from "../../email";
import {
  classAttribute,
  css,
  edge,
  firstProse,
  ground,
  proseHtml,
  proseText,
  TABLE,
  within,
} from "../../markup";
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
  radius: z.number().min(0).max(60).optional(),
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
    inside: 20,
  }),
  look: ["align", "color", "size", "face", "edge", "edgeWidth", "radius", "inside"],
  html(block, context) {
    const { out } = context;
    const { inside } = block;
    const { padding, width } = within(
      { top: inside, right: inside, bottom: inside, left: inside },
      context.width,
      2 * block.edgeWidth,
    );
    const behind = ground(block.face, "table", context);
    const around = edge(block.edge, "line", context);
    const style = css({
      "background-color": behind.color,
      border: block.edgeWidth > 0 && `${block.edgeWidth}px solid ${around.color}`,
      "border-radius": `${block.radius ?? context.theme.shape.box}px`,
      padding: `${inside}px ${padding.left}px`,
    });
    out.raw(
      `<table ${TABLE} width="100%"><tr><td${classAttribute(behind.tone, block.edgeWidth > 0 && around.tone)} bgcolor="${behind.color}" style="${style}">`,
    );
    proseHtml(block.content, block, { ...behind.inside, width });
    out.raw("</td></tr></table>");
  },
  text: (block, context) => proseText(block.content.content, context),
  places: () => [{ path: "content", kind: "prose" }],
  title: (block) => firstProse(block.content) || "Empty box",
};
