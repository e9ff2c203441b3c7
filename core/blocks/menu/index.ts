import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema } from "../../email";
import { css, ink, itemShape, linkText, numbered, rowHtml, withItemIds } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("menu"),
  items: z
    .array(z.object({ ...itemShape, label: z.string().min(1).max(80), href: z.string().max(2000) }))
    .max(12),
  align: AlignSchema,
  color: ColorSchema.optional(),
  size: z.number().min(10).max(24),
});
export type MenuBlock = z.infer<typeof schema>;

export const menu: BlockType<MenuBlock> = {
  type: "menu",
  label: "Menu",
  group: "actions",
  words: "links navigation row",
  schema,
  create: (id) => ({
    id,
    type: "menu",
    items: numbered([
      { label: "Shop", href: "" },
      { label: "Journal", href: "" },
      { label: "Visit us", href: "" },
    ]),
    align: "center",
    size: 14,
  }),
  look: ["align", "color", "size"],
  html(block, context) {
    const { theme } = context;
    const { color, tone } = ink(block.color, "link", context);
    const style = css({
      display: "inline-block",
      padding: "8px 10px",
      "font-family": theme.fonts.body,
      "font-size": `${block.size}px`,
      "line-height": "28px",
      color,
      "text-decoration": "none",
    });
    rowHtml(
      block.items.map(({ href, label }) => ({
        href,
        tone,
        style,
        write: () => void context.out.escaped(label),
      })),
      block.align,
      context,
    );
  },
  text(block, context) {
    for (const item of block.items) linkText(item.label, item.href, context);
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  texts: ({ items }) => items.map(({ id }) => ({ path: `items/${id}/label`, label: "Words of the link" })),
  places: () => [],
  links: (block) =>
    block.items.map(({ id, label, href }) => ({ path: `items/${id}/href`, words: label, href })),
  title: (block) => block.items.map((item) => item.label).join(", ") || "Empty menu",
  unready: (block) =>
    block.items.some((item) => item.href === "")
      ? ["A link of a menu leads nowhere. Give it an address."]
      : [],
};
