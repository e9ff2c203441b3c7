import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import {
  columnsHtml,
  css,
  itemShape,
  NO_PICTURE,
  numbered,
  pictureHtml,
  pictureLinks,
  pictureShape,
  pictureText,
  withItemIds,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("imageSet"),
  pictures: z.array(z.object({ ...itemShape, ...pictureShape })).max(12),
  /** How many stand side by side; a strip has all of them in one line. */
  across: z.number().int().min(1).max(6),
  /** Space between them in px. */
  gap: z.number().min(0).max(60),
  radius: z.number().min(0).max(100).optional(),
  /** Side by side on phones too, or one below the other. */
  onPhones: z.enum(["beside", "stack"]),
});
export type ImageSetBlock = z.infer<typeof schema>;

export const imageSet: BlockType<ImageSetBlock> = {
  type: "imageSet",
  label: "Image set",
  group: "pictures",
  words: "gallery grid strip pictures several",
  schema,
  create: (id) => ({
    id,
    type: "imageSet",
    pictures: numbered([NO_PICTURE, NO_PICTURE, NO_PICTURE, NO_PICTURE]),
    across: 2,
    gap: 12,
    onPhones: "beside",
  }),
  look: ["across", "gap", "radius", "onPhones"],
  html(block, context) {
    const { out } = context;
    const { pictures, across, gap } = block;
    if (pictures.length === 0 && context.marks)
      out.raw('<div class="waiting">Add pictures on the right</div>');
    for (let from = 0; from < pictures.length; from += across) {
      const line = pictures.slice(from, from + across);
      const share = Math.floor(10_000 / across) / 100;
      const cells = Array.from({ length: across }, (_, index) => ({
        share,
        write(width: number) {
          if (line[index])
            pictureHtml(
              { ...line[index], radius: block.radius },
              { ...context, width },
              undefined,
              `pictures/${line[index].id}`,
            );
          else out.raw("&nbsp;");
        },
      }));
      if (from > 0)
        out.raw(
          `<div style="${css({ height: `${gap}px`, "line-height": `${gap}px`, "font-size": "1px" })}">&nbsp;</div>`,
        );
      columnsHtml(context, cells, { gap, onPhones: block.onPhones });
    }
  },
  text(block, context) {
    for (const picture of block.pictures) pictureText(picture, context);
  },
  upgrades: { 2: (raw) => withItemIds(raw, "pictures") },
  places: () => [],
  links: (block) => block.pictures.flatMap((picture) => pictureLinks(picture, `pictures/${picture.id}/`)),
  title: (block) =>
    block.pictures
      .map((picture) => picture.alt)
      .filter((alt) => alt !== "")
      .join(", ")
      .slice(0, 40) || `Set of ${block.pictures.length} pictures`,
  unready(block) {
    const missing = block.pictures.filter((picture) => picture.src === "").length;
    return missing === 0
      ? []
      : [
          `An image set waits for ${missing === 1 ? "a picture" : `${missing} pictures`}. Choose or remove them.`,
        ];
  },
};
