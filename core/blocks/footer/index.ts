import { z } from "zod";
import { AlignSchema, BlockBaseSchema, paragraphOf, RichDocSchema } from "../../email";
import { css, proseHtml, proseText } from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("footer"),
  content: RichDocSchema,
  unsubscribeWords: z.string().min(1).max(120),
  align: AlignSchema,
});
export type FooterBlock = z.infer<typeof schema>;

const UNSUBSCRIBE = { field: "system.unsubscribe", fallback: "", format: "asIs" } as const;

export const footer: BlockType<FooterBlock> = {
  type: "footer",
  label: "Footer",
  group: "layout",
  words: "unsubscribe address legal",
  schema,
  create: (id) => ({
    id,
    type: "footer",
    content: {
      type: "doc",
      content: [
        paragraphOf(
          "You get this because you asked for letters from ",
          { type: "mergeTag", attrs: { field: "brand.name", fallback: "", format: "asIs" } },
          ".",
        ),
      ],
    },
    unsubscribeWords: "Unsubscribe",
    align: "center",
  }),
  look: ["align"],
  html(block, context) {
    const { out, theme, brand } = context;
    const look = { size: 13, color: theme.light.soft, align: block.align };
    const line = css({
      margin: "8px 0 0",
      "font-family": theme.fonts.body,
      "font-size": "13px",
      "line-height": "20px",
      color: theme.light.soft,
      "text-align": block.align,
    });
    const link = css({ color: theme.light.soft, "text-decoration": "underline" });
    out.raw('<div class="d-softall">');
    proseHtml(block.content, look, context);
    out.raw(`<p style="${line}">`).escaped(`${brand.name}, ${brand.address}`).raw("</p>");
    out
      .raw(`<p style="${line}"><a href="`)
      .value({ ...UNSUBSCRIBE, sink: "href" })
      .raw(`" style="${link}">`);
    out.escaped(block.unsubscribeWords).raw("</a></p></div>");
  },
  text(block, context) {
    const { out, brand } = context;
    out.raw("--\n");
    proseText(block.content.content, context);
    out.raw(`${brand.name}, ${brand.address}\n\n${block.unsubscribeWords}: `);
    out.value({ ...UNSUBSCRIBE, sink: "text" }).raw("\n\n");
  },
  places: () => [{ path: "content", kind: "prose" }],
  links: (block) => [{ path: null, words: block.unsubscribeWords, href: "", fixed: "Made for each reader" }],
  title: () => "Footer",
  fixed: true,
};
