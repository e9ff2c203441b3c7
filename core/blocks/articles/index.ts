import type { Raw } from "../../email";
import { type Item, newestItems } from "../../items";
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
  linkLook,
  type RenderContext,
  spoken,
  TABLE,
  type Tone,
  targetOf,
  textTarget,
} from "../../markup";
import { absolute, dateWords, escapeHtml, localeOf, shortened } from "../../program";
import { key, number, type Properties, text } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  source: key("From", "source", {
    under: "Articles",
    history: "Choosing the source",
    missing: "An articles block has no source. Choose one.",
  }),
  count: number("How many", { min: 1, max: 12, unit: "" }, { fresh: 3, whole: true, under: "Articles" }),
  excerptLength: number(
    "Excerpt to",
    { min: 20, max: 1000, unit: "characters" },
    { fresh: 140, whole: true, look: true, part: "excerpt", under: "Articles" },
  ),
  linkWords: text("Link words", 80, { fresh: "Read on", part: "link", under: "Articles", stays: true }),
} satisfies Properties;
type ArticlesBlock = BlockOf<"articles", typeof properties>;

/** A date as "2 March 2026" in UTC and in the language of the email: the same for every reader. */
function articleDate(published: string, { language }: RenderContext): string {
  return dateWords(localeOf(language), { dateStyle: "long", timeZone: "UTC" }, new Date(published));
}

/** The colours of its parts, found before the content is there: the style block has to name them. */
function looksOf(context: RenderContext) {
  return {
    heading: ink(undefined, headingLook(3, context).role, context),
    text: ink(undefined, "text", context),
    soft: ink(undefined, "soft", context),
    link: ink(undefined, "link", context),
    picture: ground(undefined, "table", context),
  };
}
type Looks = ReturnType<typeof looksOf>;

function words(article: Item, block: ArticlesBlock, looks: Looks, context: RenderContext): void {
  const { out, theme } = context;
  const write = (element: string, look: Tone, size: number, margin: string, content: string) => {
    const lineHeight = Math.round(size * theme.text.line);
    const style = css({ margin, ...lineStyle({ size, lineHeight }, look.color, context) });
    out.raw(`<${element}${classAttribute(look.tone)} style="${style}">${content}</${element}>`);
  };
  if (shows(block, "title")) {
    const { color, tone } = looks.heading;
    const title = escapeHtml(article.title);
    const linked = article.link
      ? `<a href="${hrefOf(article.link, context)}"${classAttribute(tone)} style="${css({ color, "text-decoration": "none" })}">${title}</a>`
      : title;
    const style = css({ margin: "0 0 4px", ...lineStyle(headingLook(3, context), color, context) });
    out.raw(`<h${context.level}${classAttribute(tone)} style="${style}">${linked}</h${context.level}>`);
  }
  if (shows(block, "date") && article.date)
    write("p", looks.soft, 14, "0 0 6px", articleDate(article.date, context));
  if (shows(block, "excerpt") && article.text)
    write("p", looks.text, 15, "0 0 6px", escapeHtml(shortened(article.text, block.excerptLength)));
  if (shows(block, "link") && article.link) {
    const { color, tone } = looks.link;
    const style = css({ color, ...linkLook(theme) });
    write(
      "p",
      looks.text,
      15,
      "0",
      `<a href="${hrefOf(article.link, context)}"${classAttribute(tone)} style="${style}">${escapeHtml(block.linkWords)}${spoken(` ${escapeHtml(article.title)}`)}</a>`,
    );
  }
}

function articleHtml(article: Item, block: ArticlesBlock, looks: Looks, context: RenderContext): void {
  const { out, theme } = context;
  const picture = article.picture ? absolute(article.picture, context.origin) : "";
  if (!shows(block, "picture") || picture === "") {
    words(article, block, looks, context);
    return;
  }
  columnsHtml(
    context,
    [
      {
        share: 34,
        write(width) {
          const style = css({
            display: "block",
            width: "100%",
            "max-width": `${width}px`,
            height: "auto",
            border: "0",
            "border-radius": "4px",
            "background-color": looks.picture.color,
          });
          const { size } = article;
          const height = size && Math.max(1, Math.round((width * size.height) / size.width));
          const high = height === undefined ? "" : ` height="${height}"`;
          const img = `<img src="${escapeHtml(picture)}" alt="" width="${width}"${high}${classAttribute("fluid", looks.picture.tone)} style="${style}">`;
          out.raw(
            article.link
              ? `<a href="${hrefOf(article.link, context)}" aria-label="${escapeHtml(article.title)}">${img}</a>`
              : img,
          );
        },
      },
      { share: 66, write: (width) => words(article, block, looks, { ...context, width }) },
    ],
    { gap: theme.space.gap, onPhones: "stack" },
  );
}

/** To schema 2: parts are switched off as those of all blocks. */
function partsToOff({ parts, ...raw }: Raw): Raw {
  if (typeof parts !== "object" || parts === null) return raw;
  const off = Object.entries(parts).flatMap(([key, on]) => (on === false ? [key] : []));
  return off.length === 0 ? raw : { ...raw, off };
}

export const articles = declareBlock({
  type: "articles",
  label: "Articles",
  group: "live",
  words: "feed rss journal news posts",
  properties,
  fresh: { off: ["date"] },
  parts: [
    { key: "picture", label: "Picture" },
    { key: "title", label: "Title" },
    { key: "excerpt", label: "Excerpt" },
    { key: "date", label: "Date" },
    { key: "link", label: "Link" },
  ],
  upgrades: { 2: partsToOff },
  heading: (block) => (shows(block, "title") ? 3 : null),
  html(block, context) {
    if (block.source === "") {
      if (context.marks) context.out.raw('<div class="waiting live">Choose a source on the right</div>');
      return;
    }
    const looks = looksOf(context);
    context.out.live(block.source, (content, out) => {
      const inner = { ...context, out };
      const chosen = newestItems(content, block);
      if (chosen.length === 0 && context.marks)
        out.raw('<div class="waiting live">Nothing in this source yet</div>');
      for (const [index, article] of chosen.entries()) {
        const gap = index === chosen.length - 1 ? 0 : 20;
        out.raw(`<table ${TABLE} width="100%"><tr><td style="padding:0 0 ${gap}px;">`);
        // One heading of a message is its first.
        const level = index === 0 ? context.level : (Math.max(2, context.level) as Level);
        articleHtml(article, block, looks, { ...inner, level });
        out.raw("</td></tr></table>");
      }
    });
  },
  text(block, context) {
    if (block.source === "") return;
    context.out.live(block.source, (content, out) => {
      const inner = { ...context, out };
      for (const article of newestItems(content, block)) {
        const lines: string[] = [];
        if (shows(block, "title")) lines.push(article.title);
        if (shows(block, "date") && article.date) lines.push(articleDate(article.date, context));
        if (shows(block, "excerpt") && article.text) lines.push(shortened(article.text, block.excerptLength));
        if (article.link && (shows(block, "link") || shows(block, "title")))
          lines.push(
            context.numbered
              ? textTarget(article.link, inner, "brackets").trim()
              : targetOf(article.link, inner),
          );
        if (lines.length > 0) out.raw(`${lines.join("\n")}\n\n`);
      }
    });
  },
  title: (block) => `Newest ${block.count} ${block.count === 1 ? "article" : "articles"}`,
});
