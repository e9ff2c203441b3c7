import { z } from "zod";
import {
  AlignSchema,
  BlockBaseSchema,
  ColorSchema,
  InlineSchema,
  inlineText,
  type Known,
  linesOf,
  type MergeTag,
  RichDocSchema,
  richText,
  typedTag,
  writeTag,
} from "../../email";
import {
  classAttribute,
  css,
  edge,
  ground,
  ink,
  lineStyle,
  proseHtml,
  proseText,
  type RenderContext,
  TABLE,
  within,
} from "../../markup";
import { dateWords, escapeHtml, localeOf } from "../../program";
import { buttonHtml, buttonText } from "../button";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("coupon"),
  /** The batch the code is of; empty until one is chosen. */
  batch: z.string().max(60),
  words: RichDocSchema,
  /** What stands in place of the code when there is none left. */
  otherwise: z.string().max(200),
  terms: RichDocSchema,
  /** The last day, `YYYY-MM-DD`; that of the batch when missing. */
  until: z.iso.date().optional(),
  /** What stands before the day. */
  untilWords: z.string().max(60),
  /** The words on the button. */
  content: z.array(InlineSchema),
  /** The shop's address, and the parameter of it that takes the code. */
  href: z.string().max(2000),
  parameter: z.string().max(60),
  align: AlignSchema,
  face: ColorSchema.optional(),
  edge: ColorSchema.optional(),
});
export type CouponBlock = z.infer<typeof schema>;

/** The reader's code as a tag. */
const tagOf = ({ batch, otherwise }: CouponBlock): MergeTag => ({
  field: `code.${batch}`,
  fallback: otherwise,
  format: "asIs",
});

/** The shop's address with the code in it. */
function shopOf(block: CouponBlock): string {
  const href = block.href.trim();
  if (href === "" || block.batch === "" || block.parameter === "") return href;
  const hash = href.indexOf("#");
  const [address, fragment] = hash < 0 ? [href, ""] : [href.slice(0, hash), href.slice(hash)];
  const code = typedTag({ ...tagOf(block), fallback: "" });
  return `${address}${address.includes("?") ? "&" : "?"}${encodeURIComponent(block.parameter)}=${code}${fragment}`;
}

/** The last day its code is worth something, `YYYY-MM-DD`. */
const lastDayOf = (block: CouponBlock, known: Known) =>
  block.until ?? known.codes?.find(({ key }) => key === block.batch)?.ends;

/** The last day in words; null when there is none. */
function untilOf(block: CouponBlock, { known, language }: RenderContext): string | null {
  const day = lastDayOf(block, known);
  if (!day) return null;
  const options = { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" } as const;
  return `${block.untilWords} ${dateWords(localeOf(language), options, new Date(`${day}T00:00:00Z`))}`.trim();
}

function codeHtml(block: CouponBlock, context: RenderContext): void {
  const { out, theme, marks } = context;
  if (block.batch === "") {
    if (marks) out.raw('<div class="waiting">Choose a batch of codes on the right</div>');
    return;
  }
  const { color, tone } = ink(undefined, "heading", context);
  const style = css({
    margin: "0",
    ...lineStyle(
      { font: "heading", size: 28, lineHeight: 36, weight: 700, align: block.align },
      color,
      context,
    ),
    "letter-spacing": "1px",
    padding: `${theme.text.gap}px 0`,
  });
  out.raw(`<p${classAttribute(tone)} style="${style}">`);
  if (marks) out.raw(`<span class="reader-value" data-field="${escapeHtml(tagOf(block).field)}">`);
  writeTag(tagOf(block), "html", context);
  if (marks) out.raw("</span>");
  out.raw("</p>");
}

export const coupon: BlockType<CouponBlock> = {
  type: "coupon",
  label: "Coupon",
  group: "live",
  words: "code voucher discount offer promo",
  schema,
  create: (id) => ({
    id,
    type: "coupon",
    batch: "",
    words: richText("A little something for you:"),
    otherwise: "",
    terms: richText("One for each order. Not with other offers."),
    untilWords: "Good until",
    content: [{ type: "text", text: "Use it in the shop" }],
    href: "",
    parameter: "code",
    align: "center",
  }),
  parts: [
    { key: "words", label: "Words above" },
    { key: "button", label: "Button" },
    { key: "terms", label: "Terms" },
    { key: "until", label: "Last day" },
  ],
  look: ["align", "face", "edge"],
  html(block, context) {
    const { out, theme } = context;
    const { padding, width } = within({ top: 20, right: 20, bottom: 20, left: 20 }, context.width, 4);
    const behind = ground(block.face, "paper", context);
    const around = edge(block.edge, "line", context);
    const style = css({
      "background-color": behind.color,
      border: `2px dashed ${around.color}`,
      "border-radius": `${theme.shape.box}px`,
      padding: `20px ${padding.left}px`,
    });
    out.raw(
      `<table ${TABLE} width="100%"><tr><td${classAttribute(behind.tone, around.tone)} bgcolor="${behind.color}" style="${style}">`,
    );
    const inside = { ...behind.inside, width };
    if (shows(block, "words")) proseHtml(block.words, { align: block.align }, inside, "words");
    codeHtml(block, inside);
    if (shows(block, "button"))
      buttonHtml({ content: block.content, href: shopOf(block), align: block.align }, inside);
    const day = shows(block, "until") ? untilOf(block, context) : null;
    const { color, tone } = ink(undefined, "soft", inside);
    const soft = (margin: string) =>
      css({ margin, ...lineStyle({ size: 14, lineHeight: 20, align: block.align }, color, inside) });
    if (day !== null) out.raw(`<p${classAttribute(tone)} style="${soft("16px 0 0")}">${escapeHtml(day)}</p>`);
    if (shows(block, "terms")) {
      out.raw(`<div style="${css({ padding: "8px 0 0" })}">`);
      proseHtml(block.terms, { align: block.align, size: 14, role: "soft" }, inside, "terms");
      out.raw("</div>");
    }
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    const { out } = context;
    if (shows(block, "words")) proseText(block.words.content, context);
    if (block.batch !== "") {
      writeTag(tagOf(block), "text", context);
      out.raw("\n\n");
    }
    if (shows(block, "button")) {
      buttonText({ content: block.content, href: shopOf(block) }, context);
      out.raw("\n");
    }
    const day = shows(block, "until") ? untilOf(block, context) : null;
    if (day !== null) out.raw(`${day}\n\n`);
    if (shows(block, "terms")) proseText(block.terms.content, context);
  },
  annotation(block, { known }) {
    if (block.batch === "") return null;
    const day = shows(block, "until") ? lastDayOf(block, known) : undefined;
    const [words] = shows(block, "words") ? linesOf(block.words) : [];
    return {
      "@type": "DiscountOffer",
      discountCode: [{ type: "mergeTag", attrs: tagOf(block) }],
      ...(words && { description: words }),
      ...(day && { availabilityEnds: day }),
    };
  },
  texts: () => [
    { path: "otherwise", label: "When no code is left" },
    { path: "untilWords", label: "Before the last day" },
  ],
  places: () => [
    { path: "words", kind: "prose" },
    { path: "content", kind: "line" },
    { path: "terms", kind: "prose" },
  ],
  tags: (block) => (block.batch === "" ? [] : [tagOf(block)]),
  links: (block) =>
    shows(block, "button") ? [{ path: "href", words: inlineText(block.content), href: block.href }] : [],
  title: () => "Coupon",
  unready: (block) => [
    ...(block.batch === "" ? ["A coupon has no code. Choose a batch of codes for it."] : []),
    ...(shows(block, "button") && block.href === ""
      ? ["The button of a coupon leads nowhere. Give it the address of your shop, or switch it off."]
      : []),
  ],
};
