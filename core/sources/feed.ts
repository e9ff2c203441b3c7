import { parseFeed as parseAny } from "feedsmith";
import type { Article } from "./article";
import { htmlToPlain } from "./plain";

/** A feed that cannot be read. The message says what was found instead and what to do. */
export class FeedError extends Error {
  override name = "FeedError";
}

type AnyFeed = ReturnType<typeof parseAny>;

interface RawArticle {
  id?: string;
  title?: string;
  link?: string;
  summary?: string;
  pictures: (string | undefined)[];
  published?: string;
  categories: (string | undefined)[];
}

/**
 * Reads an RSS 2.0, Atom 1.0 or JSON Feed 1.1 document. Entries without title and text are left out, unreadable
 * dates become null and links that are neither http nor https are dropped; `problems` says how many of each.
 * @param base the address of the feed, against which relative links are resolved
 * @throws FeedError when the document is none of the three formats
 */
export function parseFeed(
  document: string,
  base: string,
): { title: string; articles: Article[]; problems: string[] } {
  const start = document.replace(/^\uFEFF/, "").trimStart();
  if (start === "")
    throw new FeedError("The address answered with an empty page. Check that it is the feed's own address.");
  let feed: AnyFeed;
  try {
    feed = parseAny(start);
  } catch {
    const looksLike = /^<(!doctype html|html)/i.test(start)
      ? "a web page"
      : /^[{[]/.test(start)
        ? "other JSON"
        : "something else";
    throw new FeedError(
      `This is not a feed: expected RSS, Atom or JSON Feed, found ${looksLike} (“${start.slice(0, 40).replace(/\s+/g, " ")}…”).`,
    );
  }
  const raw = rawArticles(feed);
  let dateless = 0;
  let empty = 0;
  const articles: Article[] = [];
  const seen = new Set<string>();
  for (const entry of raw) {
    const title = htmlToPlain(entry.title ?? "");
    const excerpt = htmlToPlain(entry.summary ?? "");
    if (title === "" && excerpt === "") {
      empty++;
      continue;
    }
    const link = webAddress(entry.link, base) ?? "";
    const id = entry.id?.trim() || link || title;
    if (seen.has(id)) continue;
    seen.add(id);
    const published = isoTime(entry.published);
    if (published === null) dateless++;
    articles.push({
      id,
      title: title || excerpt.slice(0, 60),
      link,
      excerpt,
      picture:
        entry.pictures.map((picture) => webAddress(picture, base)).find((found) => found !== null) ?? null,
      published,
      categories: entry.categories.filter((category): category is string => Boolean(category)),
    });
  }
  articles.sort((a, b) => (b.published ?? "").localeCompare(a.published ?? ""));
  const problems: string[] = [];
  if (dateless > 0)
    problems.push(
      `${dateless} ${dateless === 1 ? "article has" : "articles have"} no readable date and stand last`,
    );
  if (empty > 0)
    problems.push(`${empty} ${empty === 1 ? "entry" : "entries"} without title and text left out`);
  return { title: htmlToPlain(feedTitle(feed)), articles, problems };
}

function feedTitle(parsed: AnyFeed): string {
  return words(parsed.feed.title) ?? "";
}

/** Atom carries text as a string or as an object with its value. */
function words(text: unknown): string | undefined {
  if (typeof text === "string") return text;
  if (typeof text === "object" && text !== null && "value" in text) return words(text.value);
  return undefined;
}

function rawArticles(parsed: AnyFeed): RawArticle[] {
  switch (parsed.format) {
    case "rss":
      return (parsed.feed.items ?? []).map((item) => ({
        id: item.guid?.value,
        title: item.title,
        link: item.link,
        summary: item.description ?? item.content?.encoded,
        pictures: [
          ...(item.enclosures ?? [])
            .filter((file) => file.type?.startsWith("image/"))
            .map((file) => file.url),
          ...(item.media?.contents ?? []).map((file) => file.url),
          firstPicture(item.content?.encoded ?? item.description),
        ],
        published: words(item.pubDate),
        categories: (item.categories ?? []).map((category) => category.name),
      }));
    case "atom":
      return (parsed.feed.entries ?? []).map((entry) => ({
        id: entry.id,
        title: words(entry.title),
        link: (entry.links ?? []).find((link) => !link.rel || link.rel === "alternate")?.href,
        summary: words(entry.summary) ?? words(entry.content),
        pictures: [
          (entry.links ?? []).find((link) => link.rel === "enclosure" && link.type?.startsWith("image/"))
            ?.href,
          firstPicture(words(entry.content) ?? words(entry.summary)),
        ],
        published: words(entry.published) ?? words(entry.updated),
        categories: (entry.categories ?? []).map((category) => category.label ?? category.term),
      }));
    case "json":
      return (parsed.feed.items ?? []).map((item) => ({
        id: item.id,
        title: item.title,
        link: item.url,
        summary: item.summary ?? item.content_html ?? item.content_text,
        pictures: [item.image, item.banner_image, firstPicture(item.content_html)],
        published: words(item.date_published) ?? words(item.date_modified),
        categories: item.tags ?? [],
      }));
    default:
      throw new FeedError("This kind of feed is not supported: expected RSS, Atom or JSON Feed.");
  }
}

function firstPicture(html: string | undefined): string | undefined {
  return html ? /<img[^>]+src\s*=\s*["']([^"']+)["']/i.exec(html)?.[1] : undefined;
}

function webAddress(text: string | undefined, base: string): string | null {
  if (!text) return null;
  try {
    const url = new URL(text.trim(), base);
    return url.protocol === "http:" || url.protocol === "https:" ? url.href : null;
  } catch {
    return null;
  }
}

function isoTime(text: string | undefined): string | null {
  const time = Date.parse(text ?? "");
  return Number.isNaN(time) ? null : new Date(time).toISOString();
}
