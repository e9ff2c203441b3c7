import { z } from "zod";
import { AlignSchema, BlockBaseSchema } from "../../email";
import {
  NO_PICTURE,
  pictureHtml,
  pictureLinks,
  pictureShape,
  pictureText,
  pictureUnready,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("image"),
  ...pictureShape,
  /** Share of the available width in percent. */
  width: z.number().min(5).max(100),
  align: AlignSchema,
});
export type ImageBlock = z.infer<typeof schema>;

export const image: BlockType<ImageBlock> = {
  type: "image",
  label: "Picture",
  group: "pictures",
  words: "image photo",
  schema,
  create: (id) => ({ id, type: "image", ...NO_PICTURE, width: 100, align: "center" }),
  look: ["width", "align", "radius"],
  html: (block, context) => pictureHtml(block, context, block),
  text: (block, context) => pictureText(block, context),
  places: () => [],
  links: (block) => pictureLinks(block),
  needs: ({ src }) => ({ src }),
  title: (block) => block.alt || (block.src === "" ? "Empty picture" : "Picture"),
  unready: pictureUnready,
};
