import { z } from "zod";
import { BlockBaseSchema, InlineSchema } from "../../email";
import { css, editMark } from "../html";
import { writeInline } from "../inline";
import { NO_PICTURE, pictureHtml, pictureShape, pictureText, pictureUnready } from "../picture";
import { firstWords } from "../prose";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("captioned"),
  ...pictureShape,
  content: z.array(InlineSchema),
  align: z.enum(["left", "center", "right"]),
});
export type CaptionedBlock = z.infer<typeof schema>;

export const captioned: BlockType<CaptionedBlock> = {
  type: "captioned",
  label: "Captioned",
  group: "pictures",
  words: "image picture caption below",
  schema,
  create: (id) => ({
    id,
    type: "captioned",
    ...NO_PICTURE,
    content: [{ type: "text", text: "What the picture shows" }],
    align: "left",
  }),
  html(block, context) {
    const { out, theme } = context;
    pictureHtml(block, context);
    const look = css({
      margin: "8px 0 0",
      "font-family": theme.fonts.body,
      "font-size": "14px",
      "line-height": "20px",
      color: theme.light.soft,
      "text-align": block.align,
    });
    out.raw(`<p class="d-soft"${editMark(context, "line")} style="${look}">`);
    writeInline(block.content, context);
    out.raw("</p>");
  },
  text(block, context) {
    pictureText(block, context.out);
    writeInline(block.content, context);
    context.out.raw("\n\n");
  },
  title: (block) => firstWords(block.content) || "Picture with caption",
  unready: pictureUnready,
};
