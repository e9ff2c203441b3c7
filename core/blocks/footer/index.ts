import { paragraphOf, richText } from "../../email";
import { classAttribute, css, ink, lineHtml, lineStyle, paddingOf, proseHtml, proseText } from "../../markup";
import { align, type Properties, prose, text } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  content: prose("Words", {
    fresh: richText(
      paragraphOf(
        "You get this because you asked for letters from ",
        { type: "mergeTag", attrs: { field: "brand.name", fallback: "", format: "asIs" } },
        ".",
      ),
    ),
    stays: true,
  }),
  unsubscribeWords: text("Link words", 120, { least: 1, fresh: "Unsubscribe", under: "Footer", stays: true }),
  align: align({ fresh: "center", under: "Footer" }),
} satisfies Properties;
export type FooterBlock = BlockOf<"footer", typeof properties>;

const UNSUBSCRIBE = { field: "system.unsubscribe", fallback: "", format: "asIs" } as const;

export const footer = declareBlock({
  type: "footer",
  label: "Footer",
  group: "layout",
  words: "unsubscribe address legal",
  properties,
  about: "The unsubscribe link and the postal address are always there. The address stands under Brand.",
  html(block, context) {
    const { out, brand } = context;
    const { align } = block;
    const size = 13;
    const lineHeight = 20;
    proseHtml(block.content, { size, role: "soft", links: "soft", align }, context);
    lineHtml(
      [{ type: "text", text: `${brand.name}, ${brand.address}` }],
      { role: "soft", size, lineHeight, margin: "8px 0 0", align },
      context,
    );
    const { color, tone } = ink(undefined, "soft", context);
    const line = css({ margin: "0", ...lineStyle({ size, lineHeight, align }, color, context) });
    // As high as a finger needs, without standing further from what is above it.
    const padding = paddingOf([12, 12, 12, align === "left" ? 0 : 12], context);
    const link = css({ display: "inline-block", padding, color, "text-decoration": "underline" });
    out
      .raw(`<p${classAttribute(tone)} style="${line}"><a href="`)
      .value({ ...UNSUBSCRIBE, sink: "href" })
      .raw(`"${classAttribute(tone)} style="${link}">`);
    out.escaped(block.unsubscribeWords).raw("</a></p>");
  },
  text(block, context) {
    const { out, brand } = context;
    out.raw("-- \n");
    proseText(block.content.content, context);
    out.raw(`${brand.name}, ${brand.address}\n\n${block.unsubscribeWords}: `);
    out.value({ ...UNSUBSCRIBE, sink: "text" }).raw("\n\n");
  },
  links: (block) => [{ path: null, words: block.unsubscribeWords, href: "", fixed: "Made for each reader" }],
  title: () => "Footer",
  fixed: true,
});
