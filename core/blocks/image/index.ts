import { z } from "zod";
import { BlockBaseSchema, ColorSchema } from "../../email";
import { escapeHtml, safeHref } from "../../program";
import { absolute, css, TABLE } from "../html";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("image"),
  /** An absolute address, or a path of ours that starts with `/`; empty until a picture is chosen. */
  src: z.string().max(2000),
  alt: z.string().max(500),
  decorative: z.boolean(),
  /** Natural size in px, to keep the ratio. */
  natural: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
  /** Share of the available width in percent. */
  width: z.number().min(5).max(100),
  align: z.enum(["left", "center", "right"]),
  radius: z.number().min(0).max(100).optional(),
  href: z.string().max(2000).optional(),
  background: ColorSchema.optional(),
});
export type ImageBlock = z.infer<typeof schema>;

export const image: BlockType<ImageBlock> = {
  type: "image",
  label: "Picture",
  group: "pictures",
  words: "image photo",
  schema,
  create: (id) => ({ id, type: "image", src: "", alt: "", decorative: false, width: 100, align: "center" }),
  html(block, context) {
    const { out, theme } = context;
    if (block.src === "") {
      if (context.marks)
        out.raw('<div class="waiting">Choose a picture on the right, or drop one here</div>');
      return;
    }
    const width = Math.round((context.width * block.width) / 100);
    const height = block.natural
      ? Math.round((width * block.natural.height) / block.natural.width)
      : undefined;
    const alt = block.decorative ? "" : block.alt;
    const style = css({
      display: "block",
      width: "100%",
      "max-width": `${width}px`,
      height: "auto",
      border: "0",
      "border-radius": block.radius ? `${block.radius}px` : undefined,
      margin: block.align === "center" ? "0 auto" : block.align === "right" ? "0 0 0 auto" : "0",
      "font-family": theme.fonts.body,
      "font-size": "14px",
      "line-height": "20px",
      color: theme.light.soft,
    });
    const link = block.href ? safeHref(block.href) : undefined;
    const size = ` width="${width}"${height ? ` height="${height}"` : ""}`;
    out.raw(`<table ${TABLE} width="100%"><tr><td align="${block.align}">`);
    if (link) out.raw(`<a href="${escapeHtml(link)}" style="text-decoration:none;">`);
    out.raw(
      `<img src="${escapeHtml(absolute(block.src, context.origin))}" alt="${escapeHtml(alt)}"${size}${block.width === 100 ? ' class="fluid"' : ""} style="${style}">`,
    );
    if (link) out.raw("</a>");
    out.raw("</td></tr></table>");
  },
  text(block, { out }) {
    if (block.src === "" || block.decorative || block.alt === "") return;
    const link = block.href && safeHref(block.href) !== "#" ? ` (${safeHref(block.href)})` : "";
    out.raw(`[${block.alt}]${link}\n\n`);
  },
  title: (block) => block.alt || (block.src === "" ? "Empty picture" : "Picture"),
};
