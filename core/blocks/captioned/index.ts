import { z } from "zod";
import { AlignSchema, BlockBaseSchema, InlineSchema } from "../../email";
import {
  firstWords,
  NO_PICTURE,
  pictureHtml,
  pictureLinks,
  pictureShape,
  pictureText,
  pictureUnready,
  smallWords,
  writeInline,
} from "../../markup";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("captioned"),
  ...pictureShape,
  content: z.array(InlineSchema),
  align: AlignSchema,
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
  places: () => [{ path: "content", kind: "line" }],
  links: (block) => pictureLinks(block),
  needs: ({ src }) => ({ src }),
  title: (block) => firstWords(block.content) || "Picture with caption",
  unready: pictureUnready,
};
