import { lightnessOf } from "../../color";
import { classAttribute, css, headingLook, hrefOf, ink, lineStyle, pictureHtml, sideOf } from "../../markup";
import { escapeHtml } from "../../program";
import { address, align, number, type Properties } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  width: number("Width", { min: 20, max: 600 }, { fresh: 160, look: true, under: "Logo" }),
  align: align({ fresh: "center", under: "Logo" }),
  href: address("Leads to", { otherwise: "Logo", under: "Logo" }),
} satisfies Properties;
export type LogoBlock = BlockOf<"logo", typeof properties>;

/** Up to this width the small logo is shown, in px. */
const SMALL = 64;

export const logo = declareBlock({
  type: "logo",
  label: "Logo",
  group: "pictures",
  words: "brand mark name",
  properties,
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
  title: () => "Logo",
});
