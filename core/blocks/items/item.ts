/** How an item is written, wherever it comes from: placed by hand or picked for a reader. */
import { calendarAddress, calendarEntryOf } from "../../email";
import { costs, type Item, isSoldOut, itemOf, saving } from "../../items";
import {
  classAttribute,
  columnsHtml,
  css,
  face,
  ground,
  headingLook,
  hrefOf,
  ink,
  type Level,
  lineStyle,
  linkLook,
  type RenderContext,
  spoken,
  TABLE,
  tableAt,
  targetOf,
  textTarget,
  timeWords,
} from "../../markup";
import {
  dateWords,
  escapeHtml,
  localeOf,
  Pool,
  shortened,
  shortenedToLines,
  sumWords,
  Writer,
} from "../../program";
import { buttonHtml } from "../button";
import { shows } from "../type";
import { type Arranged, BADGES, type ITEM_PARTS } from "./arranged";
import { factOf, pictureOf, type Shown } from "./shown";

/** What is said of a placed item: what was typed over its own counts. */
export const titleOf = ({ title, item }: Shown) => title ?? item.title;

/** The letters of an item's text, in px. */
const TEXT_SIZE = 15;

function aboutOf({ text, item }: Shown, block: Arranged, width: number): string {
  const all = text ?? item.text;
  return block.shorten === "lines"
    ? shortenedToLines(all, block.textLines, width, TEXT_SIZE)
    : shortened(all, block.textLength);
}

/** What it costs, and what it did before where that was more. A price that was typed stands alone. */
function pricesOf({ item, price }: Shown, locale: string): { now: string; was: string | null } | null {
  const sum = price ?? costs(item);
  if (sum === null) return null;
  const words = (it: number) => sumWords(locale, it, item.currency);
  const was = price === undefined && saving(item) > 0 ? item.price : undefined;
  return { now: words(sum), was: was === undefined ? null : words(was) };
}

/** When it was published or takes place: a day, or a time by the clock of its place. */
function whenOf({ date, until, zone }: Item, { language }: RenderContext): string {
  if (date === null) return "";
  const timed = date.length > 10 && (until !== undefined || zone !== undefined);
  return timed
    ? timeWords(Date.parse(date), zone ?? "UTC", language)
    : dateWords(localeOf(language), { dateStyle: "long", timeZone: "UTC" }, new Date(date));
}

/** Where an item goes into readers' calendars; empty where it says no hours. */
function calendarOf(placed: Shown, { origin }: RenderContext): string {
  const entry = calendarEntryOf(placed.item, titleOf(placed));
  return entry ? calendarAddress(entry, origin) : "";
}

/** The words of the first badge that holds of an item. */
function badgeOf({ item }: Shown, { badges }: Arranged, { today = "" }: RenderContext): string {
  for (const { by, than, words } of badges) {
    const number = BADGES[by].of(item, than, today);
    if (number !== null) return words.replaceAll("#", String(number));
  }
  return "";
}

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
    link: ink(undefined, "link", context),
    picture: ground(undefined, "table", context),
  };
}

/** Writes an item: its picture above its words, or beside them. */
export function itemHtml(placed: Shown, block: Arranged, context: RenderContext, level: Level): void {
  const beside = block.arranged === "list" && shows(block, "picture") && placed.item.picture;
  if (beside)
    columnsHtml(
      context,
      [
        { share: 34, write: (width) => pictureHtml(placed, block, { ...context, width }, "0") },
        { share: 66, write: (width) => wordsHtml(placed, block, { ...context, width }, level) },
      ],
      { gap: context.theme.space.gap, onPhones: block.onPhones },
    );
  else {
    pictureHtml(placed, block, context, "0 0 10px");
    wordsHtml(placed, block, context, level);
  }
}

/** What names it for those who do not see it: what was typed goes with its part, what its source calls it does not. */
const calledOf = (placed: Shown, block: Arranged) =>
  shows(block, "title") ? titleOf(placed) : placed.item.title;

const linked = ({ link }: Item, context: RenderContext, html: string, attributes: string) =>
  link ? `<a href="${hrefOf(link, context)}"${attributes}>${html}</a>` : html;

function pictureHtml(placed: Shown, block: Arranged, context: RenderContext, padding: string): void {
  const { out, theme, width } = context;
  const { picture, height } = pictureOf(placed, block, context);
  if (picture === "") return;
  const { color, tone } = looksOf(context).picture;
  const style = css({
    display: "block",
    width: "100%",
    "max-width": `${width}px`,
    height: "auto",
    border: "0",
    "border-radius": `${block.radius ?? theme.shape.picture}px`,
    "background-color": color,
  });
  const high = height === undefined ? "" : ` height="${height}"`;
  const img = `<img src="${escapeHtml(picture)}" alt="" width="${width}"${high}${classAttribute("fluid", tone)} style="${style}">`;
  out.raw(`<div style="${css({ padding })}">`);
  out.raw(linked(placed.item, context, img, ` aria-label="${escapeHtml(calledOf(placed, block))}"`));
  out.raw("</div>");
}

function wordsHtml(placed: Shown, block: Arranged, context: RenderContext, level: Level): void {
  const { out, theme, width } = context;
  const { item } = placed;
  const looks = looksOf(context);
  const locale = localeOf(context.language);
  const title = calledOf(placed, block);
  const line = (look: "text" | "soft", size: number, margin: string, html: string) => {
    const { color, tone } = looks[look];
    const lineHeight = Math.round(size * theme.text.line);
    const style = css({ margin, ...lineStyle({ size, lineHeight, align: block.align }, color, context) });
    out.raw(`<p${classAttribute(tone)} style="${style}">${html}</p>`);
  };
  const part = (
    key: (typeof ITEM_PARTS)[number]["key"],
    words: () => string,
    write: (html: string) => void,
  ) => {
    const said = shows(block, key) ? words() : "";
    if (said !== "") write(escapeHtml(said));
  };
  part(
    "badge",
    () => badgeOf(placed, block, context),
    (html) => badgeHtml(html, block, context),
  );
  if (shows(block, "title")) {
    const { color, tone } = looks.heading;
    const style = css({
      margin: "0 0 4px",
      ...lineStyle({ ...headingLook(3, context), align: block.align }, color, context),
    });
    const plain = `${classAttribute(tone)} style="${css({ color, "text-decoration": "none" })}"`;
    out.raw(
      `<h${level}${classAttribute(tone)} style="${style}">${linked(item, context, escapeHtml(title), plain)}</h${level}>`,
    );
  }
  part(
    "date",
    () => whenOf(item, context),
    (html) => line("soft", 14, "0 0 6px", html),
  );
  part(
    "place",
    () => item.place ?? "",
    (html) => line("soft", 14, "0 0 6px", html),
  );
  part(
    "text",
    () => aboutOf(placed, block, width),
    (html) => line("text", TEXT_SIZE, "0 0 6px", html),
  );
  // What is read aloud of links that all look the same says where each leads.
  const leading = (words: string, link: string, margin: string) => {
    const { color, tone } = looks.link;
    const look = `${classAttribute(tone)} style="${css({ color, ...linkLook(theme) })}"`;
    const said = `${escapeHtml(words)}${spoken(` ${escapeHtml(title)}`)}`;
    line("text", TEXT_SIZE, margin, linked({ ...item, link }, context, said, look));
  };
  if (shows(block, "facts"))
    for (const fact of block.facts) {
      const { words, href } = factOf(placed, fact, locale);
      if (href !== "") leading(words, href, "0 0 4px");
      else if (words !== "") line("text", 14, "0 0 4px", escapeHtml(words));
    }
  const prices = shows(block, "price") ? pricesOf(placed, locale) : null;
  if (prices) {
    const before =
      prices.was === null
        ? ""
        : `${spoken(` ${escapeHtml(block.wasWords)} `)} <s>${escapeHtml(prices.was)}</s>`;
    line("text", 16, "0 0 6px", `<b>${escapeHtml(prices.now)}</b>${before}`);
  }
  const gone = isSoldOut(item) && shows(block, "stock");
  if (gone) line("soft", 14, "0 0 6px", escapeHtml(block.soldWords));
  if (shows(block, "button") && item.link && !gone) {
    if (block.leadsBy === "words") leading(block.linkWords, item.link, "0");
    else {
      out.raw(`<div style="${css({ padding: "6px 0 0" })}">`);
      buttonHtml(
        { content: [{ type: "text", text: block.linkWords }], href: item.link, align: block.align },
        { ...context, marks: false },
      );
      out.raw("</div>");
    }
  }
  const calendar = shows(block, "calendar") ? calendarOf(placed, context) : "";
  if (calendar !== "") leading(block.calendarWords, calendar, "8px 0 0");
}

/** A few words on a ground of their own. */
function badgeHtml(words: string, block: Arranged, context: RenderContext): void {
  const { inside, edge, ...behind } = face(undefined, context);
  const { color, tone } = ink(undefined, "onAccent", inside);
  const cell = css({
    "background-color": behind.color,
    "border-radius": "3px",
    padding: "3px 8px",
    border: edge?.css,
  });
  const style = css({ margin: "0", ...lineStyle({ size: 12, lineHeight: 16, weight: 700 }, color, context) });
  const place = tableAt(block.align, context);
  const table = css({ "border-collapse": "separate", margin: place.margin });
  context.out
    .raw(
      `<div style="${css({ padding: "0 0 6px" })}">${place.open}<table ${TABLE}${place.align} style="${table}">`,
    )
    .raw(`<tr><td${classAttribute(behind.tone, edge?.tone)} bgcolor="${behind.color}" style="${cell}">`)
    .raw(`<p${classAttribute(tone)} style="${style}">${words}</p></td></tr></table>${place.close}</div>`);
}

const WHOLE = itemOf({
  id: "whole",
  title: "Whole",
  text: "All that an item can say.",
  link: "https://shop.example/",
  picture: "https://shop.example/whole.png",
  price: 2,
  sale: 1,
  stock: 1,
  date: "2026-01-01T10:00:00Z",
  until: "2026-01-01T11:00:00Z",
  place: "Here",
});

/** Makes the colours of all that an item can have known, before there are any: the style block has to name them. */
export function nameColours(given: Arranged, context: RenderContext): void {
  // Whether the first badge holds depends on the item.
  const block = {
    ...given,
    badges: given.badges.slice(0, 1).map((badge) => ({ ...badge, by: "few", than: 1 }) as const),
  };
  for (const item of [WHOLE, { ...WHOLE, stock: 0 }])
    itemHtml({ item }, block, { ...context, out: new Writer(new Pool()), counted: false }, context.level);
}

/** How many stand in each row, one row after the other. */
function rowsOf(block: Arranged, width: number, count: number): number[] {
  const across = block.arranged === "list" ? 1 : roomFor(block, width);
  const rows = block.arranged === "lead" && count > 0 ? [1] : [];
  for (let left = count - rows.length; left > 0; left -= across) rows.push(across);
  return rows;
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
  let next = 0;
  for (const across of rowsOf(block, context.width, count)) {
    const from = next;
    next += across;
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
}

/** How long a line of the text part is taken to be, in characters. */
const TEXT_LINE = 72;

/** Writes an item for the plain-text part. */
export function itemText(placed: Shown, block: Arranged, context: RenderContext): void {
  const locale = localeOf(context.language);
  const { item } = placed;
  const lines: string[] = [];
  const leadTo = (href: string) =>
    context.numbered ? textTarget(href, context, "brackets").trim() : targetOf(href, context);
  if (shows(block, "title")) lines.push(titleOf(placed));
  const part = (key: (typeof ITEM_PARTS)[number]["key"], ...said: string[]) => {
    if (shows(block, key)) lines.push(...said.filter((words) => words !== ""));
  };
  part("badge", badgeOf(placed, block, context));
  part("date", whenOf(item, context));
  part("place", item.place ?? "");
  const letters = block.shorten === "lines" ? block.textLines * TEXT_LINE : block.textLength;
  part("text", shortened(placed.text ?? item.text, letters));
  part(
    "facts",
    ...block.facts.map((fact) => {
      const { words, href } = factOf(placed, fact, locale);
      return href === "" ? words : `${words}: ${leadTo(href)}`;
    }),
  );
  const prices = pricesOf(placed, locale);
  if (prices)
    part("price", prices.was === null ? prices.now : `${prices.now}, ${block.wasWords} ${prices.was}`);
  if (isSoldOut(item) && shows(block, "stock")) lines.push(block.soldWords);
  if (item.link && (shows(block, "button") || shows(block, "title") || shows(block, "picture")))
    lines.push(leadTo(item.link));
  const calendar = shows(block, "calendar") ? calendarOf(placed, context) : "";
  if (calendar !== "") lines.push(`${block.calendarWords}: ${leadTo(calendar)}`);
  if (lines.length > 0) context.out.raw(`${lines.join("\n")}\n\n`);
}
