import { z } from "zod";
import { BlockBaseSchema, ColorSchema, RichDocSchema, richText, ValignSchema } from "../../email";
import {
  columnsHtml,
  firstProse,
  NO_PICTURE,
  pictureHtml,
  pictureLinks,
  pictureShape,
  pictureText,
  pictureUnready,
  proseHtml,
  proseText,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("beside"),
  ...pictureShape,
  content: RichDocSchema,
  side: z.enum(["left", "right"]),
  /** Share of the picture in percent. */
  share: z.number().min(15).max(80),
  valign: ValignSchema,
  color: ColorSchema.optional(),
  size: z.number().min(10).max(40).optional(),
});
export type BesideBlock = z.infer<typeof schema>;

export const beside: BlockType<BesideBlock> = {
  type: "beside",
  label: "Beside text",
  group: "pictures",
  words: "image picture next to text left right",
  schema,
  create: (id) => ({
    id,
    type: "beside",
    ...NO_PICTURE,
    content: richText("The words beside the picture."),
    side: "left",
    share: 40,
    valign: "middle",
  }),
  look: ["side", "share", "valign", "color", "size", "radius"],
  html(block, context) {
    const picture = {
      share: block.share,
      write: (width: number) => pictureHtml(block, { ...context, width }),
    };
    const words = {
      share: 100 - block.share,
      write: (width: number) => proseHtml(block.content, block, { ...context, width }),
    };
    // Stacked on phones, the picture always comes first.
    const right = block.side === "right";
    columnsHtml(context, right ? [words, picture] : [picture, words], {
      gap: context.theme.space.gap,
      valign: block.valign,
      onPhones: right ? "reverse" : "stack",
    });
  },
  text(block, context) {
    pictureText(block, context);
    proseText(block.content.content, context);
  },
  places: () => [{ path: "content", kind: "prose" }],
  links: (block) => pictureLinks(block),
  title: (block) => firstProse(block.content) || "Picture beside text",
  unready: pictureUnready,
};
