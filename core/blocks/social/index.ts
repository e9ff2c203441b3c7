import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import {
  GlyphSchema,
  itemShape,
  linkRowHtml,
  linkRowShape,
  linkText,
  numbered,
  withItemIds,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("social"),
  ...linkRowShape,
  items: z
    .array(
      z.object({
        ...itemShape,
        glyph: GlyphSchema,
        /** One of one's own in place of the drawing. */
        picture: z.string().max(2000).optional(),
        label: z.string().min(1).max(80),
        href: z.string().max(2000),
      }),
    )
    .max(12),
});
export type SocialBlock = z.infer<typeof schema>;

export const social: BlockType<SocialBlock> = {
  type: "social",
  label: "Social links",
  group: "actions",
  words: "follow channels profiles",
  schema,
  create: (id) => ({
    id,
    type: "social",
    items: numbered([
      { glyph: "globe", label: "Website", href: "" },
      { glyph: "camera", label: "Pictures", href: "" },
      { glyph: "film", label: "Films", href: "" },
      { glyph: "talk", label: "Talk with us", href: "" },
    ]),
    display: "drawings",
    align: "center",
    size: 24,
  }),
  look: ["display", "align", "size", "color"],
  html: (block, context) => linkRowHtml(block.items, block, context),
  text(block, context) {
    for (const item of block.items) linkText(item.label, item.href, context);
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  texts: ({ items }) => items.map(({ id }) => ({ path: `items/${id}/label`, label: "Words of the link" })),
  places: () => [],
  links: (block) =>
    block.items.map(({ id, label, href }) => ({ path: `items/${id}/href`, words: label, href })),
  title: (block) =>
    block.items
      .map((item) => item.label)
      .join(", ")
      .slice(0, 40) || "Social links",
  unready: (block) =>
    block.items.some((item) => item.href === "") ? ["A social link leads nowhere. Give it an address."] : [],
};
