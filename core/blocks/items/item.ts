/** How an item is written, wherever it comes from: placed by hand or picked for a reader. */
import { costs, type Item, isSoldOut, itemOf, saving } from "../../items";
import {
  classAttribute,
  columnsHtml,
  css,
  ground,
  headingLook,
  hrefOf,
  ink,
  type Level,
  lineStyle,
  type RenderContext,
  spoken,
  TABLE,
  targetOf,
  textTarget,
} from "../../markup";
import { absolute, escapeHtml, localeOf, Pool, shortened, sumWords, Writer } from "../../program";
import { align, choice, corners, number, type Properties, text } from "../../properties";
import { buttonHtml } from "../button";
import { type BlockOf, shows } from "../type";

/** How items are arranged and what is said of them: the same for all blocks that hold items. */
export const ARRANGED = {
  across: number(
    "Side by side",
    { min: 1, max: 4, unit: "" },
    { fresh: 2, whole: true, look: true, under: "Arrangement" },
  ),
  gap: number("Gap", { max: 60 }, { fresh: 20, look: true, under: "Arrangement" }),
  onPhones: choice(
    "On phones",
    [
      { value: "stack", label: "Stacked" },
      { value: "beside", label: "The same" },
    ],
    { fresh: "stack", look: true, under: "Arrangement" },
  ),
  align: align({ fresh: "left", under: "Arrangement" }),
  radius: corners({ under: "Arrangement" }),
  textLength: number(
    "Text to",
    { min: 20, max: 1000, unit: "characters" },
    { fresh: 90, whole: true, look: true, part: "text", under: "Words" },
  ),
  wasWords: text("Before the old price", 40, { fresh: "was", part: "price", under: "Words", stays: true }),
  soldWords: text("When sold out", 60, { fresh: "Sold out", part: "stock", under: "Words", stays: true }),
  linkWords: text("On the button", 80, { fresh: "Have a look", part: "button", under: "Words", stays: true }),
} satisfies Properties;
type Arranged = BlockOf<string, typeof ARRANGED>;

/** What can be switched off of an item. */
export const ITEM_PARTS = [
  { key: "picture", label: "Picture" },
  { key: "title", label: "Title" },
  { key: "text", label: "Text" },
  { key: "price", label: "Price" },
  { key: "stock", label: "Sold out" },
  { key: "button", label: "Button" },
] as const;

/** An item with what was typed over what its source says. */
export interface Shown {
  item: Item;
  title?: string;
  text?: string;
}

/** What is said of a placed item: what was typed over its own counts. */
export const titleOf = ({ title, item }: Shown) => title ?? item.title;
const aboutOf = ({ text, item }: Shown, { textLength }: Arranged) => shortened(text ?? item.text, textLength);

/** So wide an item is at least, in px, where it stands beside others. */
const LEAST = 110;

/** How many stand side by side: as many as are asked for and have room. */
function roomFor({ across, gap }: Arranged, width: number): number {
  return Math.max(1, Math.min(across, Math.floor((width + gap) / (LEAST + gap))));
}

/** The colours of its parts. */
function looksOf(context: RenderContext) {
  return {
    heading: ink(undefined, headingLook(3, context).role, context),
    text: ink(undefined, "text", context),
    soft: ink(undefined, "soft", context),
    picture: ground(undefined, "table", context),
  };
}

/** Writes an item. */
export function itemHtml(placed: Shown, block: Arranged, context: RenderContext, level: Level): void {
  const { out, theme, width } = context;
  const { item } = placed;
  const looks = looksOf(context);
  const locale = localeOf(context.language);
  // What was typed goes with its part; what its source calls it names its picture all the same.
  const title = shows(block, "title") ? titleOf(placed) : item.title;
  const linked = (html: string, attributes: string) =>
    item.link ? `<a href="${hrefOf(item.link, context)}"${attributes}>${html}</a>` : html;
  const line = (look: keyof ReturnType<typeof looksOf>, size: number, margin: string, html: string) => {
    const { color, tone } = looks[look];
    const style = css({
      margin,
      ...lineStyle(
        { size, lineHeight: Math.round(size * theme.text.line), align: block.align },
        color,
        context,
      ),
    });
    out.raw(`<p${classAttribute(tone)} style="${style}">${html}</p>`);
  };
  const picture = shows(block, "picture") && item.picture ? absolute(item.picture, context.origin) : "";
  if (picture !== "") {
    const style = css({
      display: "block",
      width: "100%",
      "max-width": `${width}px`,
      height: "auto",
      border: "0",
      "border-radius": `${block.radius ?? theme.shape.picture}px`,
      "background-color": looks.picture.color,
    });
    const { size } = item;
    const high = size ? ` height="${Math.max(1, Math.round((width * size.height) / size.width))}"` : "";
    const img = `<img src="${escapeHtml(picture)}" alt="" width="${width}"${high}${classAttribute("fluid", looks.picture.tone)} style="${style}">`;
    out.raw(`<div style="${css({ padding: "0 0 10px" })}">`);
    out.raw(linked(img, ` aria-label="${escapeHtml(title)}"`));
    out.raw("</div>");
  }
  if (shows(block, "title")) {
    const { color, tone } = looks.heading;
    const style = css({
      margin: "0 0 4px",
      ...lineStyle({ ...headingLook(3, context), align: block.align }, color, context),
    });
    const words = linked(
      escapeHtml(title),
      `${classAttribute(tone)} style="${css({ color, "text-decoration": "none" })}"`,
    );
    out.raw(`<h${level}${classAttribute(tone)} style="${style}">${words}</h${level}>`);
  }
  const about = aboutOf(placed, block);
  if (shows(block, "text") && about !== "") line("text", 15, "0 0 6px", escapeHtml(about));
  const sum = costs(item);
  if (shows(block, "price") && sum !== null) {
    const before =
      saving(item) > 0 && item.price !== undefined
        ? `${spoken(` ${escapeHtml(block.wasWords)} `)} <s>${escapeHtml(sumWords(locale, item.price, item.currency))}</s>`
        : "";
    line("text", 16, "0 0 6px", `<b>${escapeHtml(sumWords(locale, sum, item.currency))}</b>${before}`);
  }
  const gone = isSoldOut(item) && shows(block, "stock");
  if (gone) line("soft", 14, "0 0 6px", escapeHtml(block.soldWords));
  if (shows(block, "button") && item.link && !gone) {
    out.raw(`<div style="${css({ padding: "6px 0 0" })}">`);
    buttonHtml(
      { content: [{ type: "text", text: block.linkWords }], href: item.link, align: block.align },
      { ...context, marks: false },
    );
    out.raw("</div>");
  }
}

const WHOLE = itemOf({
  id: "whole",
  title: "Whole",
  text: "All that an item can say.",
  link: "https://shop.example/",
  picture: "https://shop.example/whole.png",
  price: 2,
  sale: 1,
});

/** Makes the colours of all that an item can have known, before there are any: the style block has to name them. */
export function nameColours(block: Arranged, context: RenderContext): void {
  for (const item of [WHOLE, { ...WHOLE, stock: 0 }])
    itemHtml({ item }, block, { ...context, out: new Writer(new Pool()), counted: false }, context.level);
}

/** Writes rows of cells, as many side by side as are asked for and have room. @param row writes what one row says, around it */
export function gridHtml(
  block: Arranged,
  context: RenderContext,
  {
    count,
    cell,
    row = (_, body) => body(),
  }: {
    count: number;
    cell(at: number, width: number, level: Level): void;
    row?(first: number, body: () => void): void;
  },
): void {
  const { out } = context;
  const { gap } = block;
  const across = roomFor(block, context.width);
  for (let from = 0; from < count; from += across)
    row(from, () => {
      const above = from === 0 ? 0 : gap;
      out.raw(`<table ${TABLE} width="100%"><tr><td style="${css({ padding: `${above}px 0 0` })}">`);
      columnsHtml(
        context,
        Array.from({ length: across }, (_, at) => ({
          share: Math.floor(10_000 / across) / 100,
          write(width: number) {
            // One heading of a message is its first. Where there is no item, nothing is said.
            const level = from + at === 0 ? context.level : (Math.max(2, context.level) as Level);
            if (from + at < count) cell(from + at, width, level);
          },
        })),
        { gap, onPhones: block.onPhones },
      );
      out.raw("</td></tr></table>");
    });
}

/** Writes an item for the plain-text part. */
export function itemText(placed: Shown, block: Arranged, context: RenderContext): void {
  const locale = localeOf(context.language);
  const { item } = placed;
  const lines: string[] = [];
  if (shows(block, "title")) lines.push(titleOf(placed));
  const about = aboutOf(placed, block);
  if (shows(block, "text") && about !== "") lines.push(about);
  const sum = costs(item);
  if (shows(block, "price") && sum !== null)
    lines.push(
      saving(item) > 0 && item.price !== undefined
        ? `${sumWords(locale, sum, item.currency)}, ${block.wasWords} ${sumWords(locale, item.price, item.currency)}`
        : sumWords(locale, sum, item.currency),
    );
  if (isSoldOut(item) && shows(block, "stock")) lines.push(block.soldWords);
  if (item.link && (shows(block, "button") || shows(block, "title") || shows(block, "picture")))
    lines.push(
      context.numbered ? textTarget(item.link, context, "brackets").trim() : targetOf(item.link, context),
    );
  if (lines.length > 0) context.out.raw(`${lines.join("\n")}\n\n`);
}
