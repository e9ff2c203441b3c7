import { z } from "zod";
import type { Raw } from "../../email";
import { BlockBaseSchema } from "../../email";
import type { RenderContext } from "../../markup";
import { columnsHtml, css, hrefOf, TABLE } from "../../markup";
import { dateFormat, escapeHtml } from "../../program";
import { type Article, chooseArticles } from "../../sources";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("articles"),
  /** Id of the source; empty until one is chosen. */
  source: z.string(),
  count: z.number().int().min(1).max(12),
  /** Greatest length of an excerpt in characters. */
  excerptLength: z.number().int().min(20).max(1000),
  linkWords: z.string().max(80),
});
export type ArticlesBlock = z.infer<typeof schema>;

/** Shortens to whole words with an ellipsis. */
export function shorten(text: string, length: number): string {
  if (text.length <= length) return text;
  const cut = text.slice(0, length);
  const space = cut.lastIndexOf(" ");
  return `${(space > length * 0.6 ? cut.slice(0, space) : cut).replace(/[\s,;:.–-]+$/, "")}…`;
}

/** A date as "2 March 2026" in UTC: the same for every reader. */
function articleDate(published: string): string {
  return dateFormat("en-GB", { dateStyle: "long", timeZone: "UTC" }).format(new Date(published));
}

function words(article: Article, block: ArticlesBlock, context: RenderContext): void {
  const { out, theme } = context;
  const { light, fonts, headings, text } = theme;
  if (shows(block, "title")) {
    const look = css({
      margin: "0 0 4px",
      "font-family": fonts.heading,
      "font-size": `${headings.h3.size}px`,
      "line-height": `${Math.round(headings.h3.size * headings.h3.line)}px`,
      "font-weight": headings.h3.weight,
      color: light.heading,
    });
    const title = escapeHtml(article.title);
    const linked = article.link
      ? `<a href="${hrefOf(article.link, context)}" class="d-head" style="${css({ color: light.heading, "text-decoration": "none" })}">${title}</a>`
      : title;
    out.raw(`<h3 class="d-head" style="${look}">${linked}</h3>`);
  }
  const line = (size: number, color: string, margin: string) =>
    css({
      margin,
      "font-family": fonts.body,
      "font-size": `${size}px`,
      "line-height": `${Math.round(size * text.line)}px`,
      color,
    });
  if (shows(block, "date") && article.published) {
    out.raw(
      `<p class="d-soft" style="${line(13, light.soft, "0 0 6px")}">${articleDate(article.published)}</p>`,
    );
  }
  if (shows(block, "excerpt") && article.excerpt) {
    out.raw(
      `<p class="d-text" style="${line(15, light.text, "0 0 6px")}">${escapeHtml(shorten(article.excerpt, block.excerptLength))}</p>`,
    );
  }
  if (shows(block, "link") && article.link) {
    const style = css({ color: light.link, "text-decoration": "underline" });
    out.raw(
      `<p style="${line(15, light.text, "0")}"><a href="${hrefOf(article.link, context)}" class="d-link" style="${style}">${escapeHtml(block.linkWords)}<span style="display:none;mso-hide:all;"> ${escapeHtml(article.title)}</span></a></p>`,
    );
  }
}

function articleHtml(article: Article, block: ArticlesBlock, context: RenderContext): void {
  const { out, theme } = context;
  if (!shows(block, "picture") || !article.picture) {
    words(article, block, context);
    return;
  }
  const picture = article.picture;
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
            "background-color": theme.light.table,
            "margin-bottom": "10px",
          });
          const img = `<img src="${escapeHtml(picture)}" alt="" width="${width}" class="fluid" style="${style}">`;
          out.raw(
            article.link
              ? `<a href="${hrefOf(article.link, context)}" aria-label="${escapeHtml(article.title)}">${img}</a>`
              : img,
          );
        },
      },
      { share: 66, write: (width) => words(article, block, { ...context, width }) },
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

export const articles: BlockType<ArticlesBlock> = {
  type: "articles",
  label: "Articles",
  group: "live",
  words: "feed rss journal news posts",
  schema,
  create: (id) => ({
    id,
    type: "articles",
    source: "",
    count: 3,
    off: ["date"],
    excerptLength: 140,
    linkWords: "Read on",
  }),
  parts: [
    { key: "picture", label: "Picture" },
    { key: "title", label: "Title" },
    { key: "excerpt", label: "Excerpt" },
    { key: "date", label: "Date" },
    { key: "link", label: "Link" },
  ],
  look: ["excerptLength"],
  upgrades: { 2: partsToOff },
  html(block, context) {
    if (block.source === "") {
      if (context.marks) context.out.raw('<div class="waiting live">Choose a source on the right</div>');
      return;
    }
    context.out.live(block.source, (content, out) => {
      const inner = { ...context, out };
      const chosen = chooseArticles(content, block);
      if (chosen.length === 0 && context.marks)
        out.raw('<div class="waiting live">Nothing in this source yet</div>');
      for (const [index, article] of chosen.entries()) {
        const gap = index === chosen.length - 1 ? 0 : 20;
        out.raw(`<table ${TABLE} width="100%"><tr><td style="padding:0 0 ${gap}px;">`);
        articleHtml(article, block, inner);
        out.raw("</td></tr></table>");
      }
    });
  },
  text(block, context) {
    if (block.source === "") return;
    context.out.live(block.source, (content, out) => {
      for (const article of chooseArticles(content, block)) {
        const lines: string[] = [];
        if (shows(block, "title")) lines.push(article.title);
        if (shows(block, "date") && article.published) lines.push(articleDate(article.published));
        if (shows(block, "excerpt") && article.excerpt)
          lines.push(shorten(article.excerpt, block.excerptLength));
        if (article.link && (shows(block, "link") || shows(block, "title"))) lines.push(article.link);
        if (lines.length > 0) out.raw(`${lines.join("\n")}\n\n`);
      }
    });
  },
  places: () => [],
  title: (block) => `Newest ${block.count} ${block.count === 1 ? "article" : "articles"}`,
  unready: (block) => (block.source === "" ? ["An articles block has no source. Choose one."] : []),
};
