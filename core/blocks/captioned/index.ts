import { z } from "zod";
import { BlockBaseSchema, InlineSchema } from "../../email";
import { writeInline } from "../inline";
import { NO_PICTURE, pictureHtml, pictureShape, pictureText, pictureUnready, smallWords } from "../picture";
import { firstWords } from "../prose";
import { type BlockType, shows } from "../type";

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
  parts: [{ key: "caption", label: "Caption" }],
  look: ["align", "radius"],
  html(block, context) {
    pictureHtml(block, context);
    if (shows(block, "caption")) smallWords(block.content, "content", block.align, context);
  },
  text(block, context) {
    pictureText(block, context);
    if (!shows(block, "caption")) return;
    writeInline(block.content, context);
    context.out.raw("\n\n");
  },
  title: (block) => firstWords(block.content) || "Picture with caption",
  unready: pictureUnready,
};
