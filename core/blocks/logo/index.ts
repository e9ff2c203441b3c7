import { z } from "zod";
import { lightnessOf } from "../../color";
import { AlignSchema, BlockBaseSchema } from "../../email";
import { classAttribute, css, headingLook, hrefOf, ink, lineStyle, pictureHtml, sideOf } from "../../markup";
import { escapeHtml } from "../../program";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("logo"),
  align: AlignSchema,
  /** In px. */
  width: z.number().min(20).max(600),
  href: z.string().max(2000).optional(),
});
export type LogoBlock = z.infer<typeof schema>;

/** Up to this width the small logo is shown, in px. */
const SMALL = 64;

export const logo: BlockType<LogoBlock> = {
  type: "logo",
  label: "Logo",
  group: "pictures",
  words: "brand mark name",
  schema,
  create: (id) => ({ id, type: "logo", align: "center", width: 160 }),
  look: ["align", "width"],
  html(block, context) {
    const { out, brand } = context;
    const href = block.href ?? brand.website;
    // The small one where there is little room, the one for dark grounds on those.
    const dark = lightnessOf(context.ground.light) < 45 ? brand.logoDark : undefined;
    const chosen = dark ?? (block.width <= SMALL ? brand.logoSmall : undefined) ?? brand.logo;
    if (chosen) {
      const { src, width, height } = chosen;
      const share = Math.min(100, (block.width / context.width) * 100);
      pictureHtml(
        { src, alt: brand.name, decorative: false, natural: { width, height }, href },
        context,
        {
          width: share,
          align: block.align,
        },
        "",
        chosen === dark || !brand.logoDark ? "" : "day-logo",
      );
      return;
    }
    // Without a picture the name stands in, in the type of headings.
    const type = { ...headingLook(1, context), size: 24, lineHeight: 32, align: block.align };
    const { color, tone } = ink(undefined, type.role, context);
    const line = css({ margin: "0", "text-align": sideOf(block.align, context) });
    const link = css({ ...lineStyle(type, color, context), "text-decoration": "none" });
    out.raw(
      `<p style="${line}"><a href="${hrefOf(href, context)}"${classAttribute(tone)} style="${link}">${escapeHtml(brand.name)}</a></p>`,
    );
  },
  text: (_, { out, brand }) => void out.raw(`${brand.name.toLocaleUpperCase("en")}\n\n`),
  places: () => [],
  links: (block) => (block.href === undefined ? [] : [{ path: "href", words: "Logo", href: block.href }]),
  title: () => "Logo",
};
