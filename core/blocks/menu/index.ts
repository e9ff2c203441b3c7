import { z } from "zod";
import { AlignSchema, BlockBaseSchema, ColorSchema } from "../../email";
import { css, hrefOf, itemShape, linkText, numbered, withItemIds } from "../../markup";
import { escapeHtml } from "../../program";
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
    const { out, theme } = context;
    const line = css({ margin: "0", "font-size": "0", "line-height": "28px", "text-align": block.align });
    const link = css({
      display: "inline-block",
      padding: "8px 12px",
      "font-family": theme.fonts.body,
      "font-size": `${block.size}px`,
      "line-height": "28px",
      color: block.color ?? theme.light.link,
      "text-decoration": "none",
    });
    out.raw(`<p style="${line}">`);
    for (const item of block.items) {
      const dark = block.color ? "" : ' class="d-link"';
      out.raw(`<a href="${hrefOf(item.href, context)}"${dark} style="${link}">${escapeHtml(item.label)}</a>`);
    }
    out.raw("</p>");
  },
  text(block, context) {
    for (const item of block.items) linkText(item.label, item.href, context);
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  places: () => [],
  links: (block) =>
    block.items.map(({ id, label, href }) => ({ path: `items/${id}/href`, words: label, href })),
  title: (block) => block.items.map((item) => item.label).join(", ") || "Empty menu",
  unready: (block) =>
    block.items.some((item) => item.href === "")
      ? ["A link of a menu leads nowhere. Give it an address."]
      : [],
};
