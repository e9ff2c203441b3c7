import { type Known, linesOf, type MergeTag, typedTag, writeTag } from "../../email";
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
  tableAt,
  within,
} from "../../markup";
import { dateWords, escapeHtml, localeOf } from "../../program";
import {
  address,
  align,
  choice,
  colour,
  day,
  key,
  line,
  type Properties,
  prose,
  text,
} from "../../properties";
import { buttonHtml, buttonText } from "../button";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  words: prose("Words above", { fresh: "A little something for you:", part: "words", stays: true }),
  batch: key("Batch", "codes", {
    under: "Code",
    history: "Choosing a batch of codes",
    missing: "A coupon has no code. Choose a batch of codes for it.",
  }),
  /** What stands in place of the code when there is none left. */
  otherwise: text("Without one", 200, {
    fresh: "",
    under: "Code",
    placeholder: "ask at the till",
    hint: "Each reader gets a code of their own when it is sent; here and in proofs stands the example. Left empty, a sending stops before it runs short.",
  }),
  /** What the till reads off the screen, beside the code in words. */
  figure: choice(
    "For the till",
    [
      { value: "qr", label: "QR" },
      { value: "bars", label: "Bars" },
    ],
    { none: "Words", optional: true, under: "Code" },
  ),
  /** That of the batch when missing. */
  until: day("Last day", { part: "until", under: "Code" }),
  untilWords: text("Before it", 60, { fresh: "Good until", part: "until", under: "Code", stays: true }),
  content: line("Words on the button", { fresh: "Use it in the shop", part: "button", stays: true }),
  href: address("Leads to", {
    fresh: "",
    of: ["content"],
    part: "button",
    under: "Button",
    missing: "The button of a coupon leads nowhere. Give it the address of your shop, or switch it off.",
  }),
  /** Of the shop's address: what takes the code. */
  parameter: text("Code as", 60, {
    fresh: "code",
    said: false,
    part: "button",
    under: "Button",
    placeholder: "not in the address",
    hint: "The shop gets the code in its address, under this name.",
  }),
  terms: prose("Terms", { fresh: "One for each order. Not with other offers.", part: "terms", stays: true }),
  align: align({ fresh: "center", under: "Look" }),
  face: colour("Face", { fills: true, under: "Look", theme: ({ light }) => light.paper }),
  edge: colour("Edge", { under: "Look", theme: ({ light }) => light.accent }),
} satisfies Properties;
export type CouponBlock = BlockOf<"coupon", typeof properties>;

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

/** How large what the till reads is shown, in px. */
const FIGURES = { qr: { width: 168, height: 168 }, bars: { width: 280, height: 96 } } as const;

/** The reader's code as a picture, for those who have one: white around it, also in dark, since tills read it so. */
function figureHtml(block: CouponBlock, context: RenderContext): void {
  const { out, known } = context;
  if (block.batch === "" || !block.figure) return;
  const { figure } = block;
  const tag = { ...tagOf(block), fallback: "" };
  const { width, height } = FIGURES[figure];
  const { open, close, align: side, margin } = tableAt(block.align, context);
  const shown = Math.min(width, context.width);
  const style = css({
    display: "block",
    width: `${shown}px`,
    height: "auto",
    border: "0",
    "background-color": "#FFFFFF",
  });
  const example = known.codes?.find(({ key }) => key === block.batch)?.example;
  const there = { ...tag, sink: "text" as const, ...(example !== undefined && { example }) };
  out.whether([{ there }], () => {
    out.raw(
      `<div style="${css({ padding: "0 0 12px" })}">${open}<table ${TABLE}${side} style="${css({ margin })}"><tr><td bgcolor="#FFFFFF" style="padding:0;">`,
    );
    out.raw(`<img src="${escapeHtml(context.origin)}/till/${figure}/`);
    writeTag(tag, "component", context);
    out.raw(`.png" width="${shown}" height="${Math.round((height * shown) / width)}" style="${style}" alt="`);
    writeTag(tag, "attribute", context);
    out.raw(`"></td></tr></table>${close}</div>`);
  });
}

export const coupon = declareBlock({
  type: "coupon",
  label: "Coupon",
  group: "live",
  words: "code voucher discount offer promo",
  properties,
  parts: [
    { key: "words", label: "Words above" },
    { key: "button", label: "Button" },
    { key: "terms", label: "Terms" },
    { key: "until", label: "Last day" },
  ],
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
    figureHtml(block, inside);
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
  tags: (block) => (block.batch === "" ? [] : [tagOf(block)]),
  title: () => "Coupon",
});
