import { parseFeed as parseAny } from "feedsmith";
import { Parser } from "htmlparser2";
import { type Item, itemOf } from "../items";
import { htmlToPlain } from "./plain";
import { SourceError } from "./record";
import { GREATEST, isoTime, sound, webAddress } from "./sound";

/** How a feed in XML begins and ends; comments may follow. */
const BEGINS = /^<[^>]*>[\s\S]*?<[\w:]*(rss|feed|RDF)\b|^<(rss|feed|rdf:RDF)\b/;
const ENDS = /<\/[\w:]*(rss|feed|RDF)\s*>\s*(<!--[\s\S]*-->\s*)?$/;

type AnyFeed = ReturnType<typeof parseAny>;

interface RawArticle {
  id?: string;
  title?: string;
  link?: string;
  /** What relative addresses are resolved against, from the outside in, each against the one before. */
  bases?: (string | undefined)[];
  summary?: string;
  pictures: (string | undefined)[];
  films?: (string | undefined)[];
  published?: string;
  categories: (string | undefined)[];
}

/**
 * Reads an RSS 2.0, Atom 1.0 or JSON Feed 1.1 document. Entries without title and text are left out, unreadable
 * dates become null and links that are neither http nor https are dropped; `problems` says how many of each.
 * @param base the address of the feed, against which relative links are resolved
 * @throws SourceError when the document is none of the three formats, or breaks off
 */
export function parseFeed(
  document: string,
  base: string | null,
): { title: string; items: Item[]; problems: string[] } {
  const start = document.replace(/^\uFEFF/, "").trimStart();
  if (start === "")
    throw new SourceError(
      "The address answered with an empty page. Check that it is the feed's own address.",
    );
  if (BEGINS.test(start.slice(0, 2000)) && !ENDS.test(start.slice(-2000)))
    throw new SourceError("This feed breaks off before its end. Try again later.");
  let feed: AnyFeed;
  try {
    feed = parseAny(start);
  } catch {
    const looksLike = /^<(!doctype html|html)/i.test(start)
      ? "a web page"
      : /^[{[]/.test(start)
        ? "other JSON"
        : "something else";
    throw new SourceError(
      `This is not a feed: expected RSS, Atom or JSON Feed, found ${looksLike} (“${start.slice(0, 40).replace(/\s+/g, " ")}…”).`,
    );
  }
  const raw = rawArticles(feed).map((entry) => ({ entry, published: isoTime(entry.published) }));
  raw.sort((a, b) => (b.published ?? "").localeCompare(a.published ?? ""));
  let dateless = 0;
  let empty = 0;
  let surplus = 0;
  const items: Item[] = [];
  const seen = new Set<string>();
  for (const { entry, published } of raw) {
    if (items.length === GREATEST.articles) {
      surplus++;
      continue;
    }
    const title = plain(entry.title, GREATEST.title);
    const excerpt = plain(entry.summary, GREATEST.excerpt);
    if (title === "" && excerpt === "") {
      empty++;
      continue;
    }
    const at = (entry.bases ?? []).reduce<string | null>(
      (outer, inner) => webAddress(inner, outer) ?? outer,
      base,
    );
    const link = webAddress(entry.link, at) ?? "";
    const id = sound(entry.id?.trim() || link || title).slice(0, GREATEST.id);
    if (seen.has(id)) continue;
    seen.add(id);
    if (published === null) dateless++;
    const film = (entry.films ?? []).map((one) => webAddress(one, at)).find((found) => found !== null);
    // The first category says where it belongs, the others are tags.
    const [category, ...tags] = entry.categories
      .slice(0, GREATEST.categories)
      .flatMap((name) => (name?.trim() ? [sound(name.trim()).slice(0, GREATEST.category)] : []));
    items.push(
      itemOf({
        id,
        title: title || excerpt.slice(0, 60),
        link,
        text: excerpt,
        picture:
          entry.pictures.map((picture) => webAddress(picture, at)).find((found) => found !== null) ?? null,
        ...(film && { film }),
        date: published,
        category: category ? [category] : [],
        tags,
      }),
    );
  }
  const problems: string[] = [];
  if (dateless > 0)
    problems.push(
      `${dateless} ${dateless === 1 ? "article has" : "articles have"} no readable date and stand last`,
    );
  if (empty > 0)
    problems.push(`${empty} ${empty === 1 ? "entry" : "entries"} without title and text left out`);
  if (surplus > 0) problems.push(`only the newest ${GREATEST.articles} are kept, ${surplus} older left out`);
  return { title: plain(feedTitle(feed), GREATEST.title), items, problems };
}

function plain(html: string | undefined, length: number): string {
  return sound(htmlToPlain((html ?? "").slice(0, GREATEST.html)).slice(0, length));
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
          ...media(item.media).pictures,
          firstPicture(item.content?.encoded ?? item.description),
        ],
        films: [
          ...(item.enclosures ?? [])
            .filter((file) => file.type?.startsWith("video/"))
            .map((file) => file.url),
          ...media(item.media).films,
        ],
        published: words(item.pubDate),
        categories: (item.categories ?? []).map((category) => category.name),
      }));
    case "atom":
      return (parsed.feed.entries ?? []).map((entry) => ({
        id: entry.id,
        title: words(entry.title),
        link: (entry.links ?? []).find((link) => !link.rel || link.rel === "alternate")?.href,
        bases: [parsed.feed.xml?.base, entry.xml?.base],
        summary: words(entry.summary) ?? words(entry.content),
        pictures: [
          (entry.links ?? []).find((link) => link.rel === "enclosure" && link.type?.startsWith("image/"))
            ?.href,
          ...media(entry.media).pictures,
          firstPicture(words(entry.content) ?? words(entry.summary)),
        ],
        films: [
          ...(entry.links ?? [])
            .filter((file) => file.rel === "enclosure" && file.type?.startsWith("video/"))
            .map((file) => file.href),
          ...media(entry.media).films,
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
        films: (item.attachments ?? [])
          .filter((file) => file.mime_type?.startsWith("video/"))
          .map((file) => file.url),
        published: words(item.date_published) ?? words(item.date_modified),
        categories: item.tags ?? [],
      }));
    default:
      throw new SourceError("This kind of feed is not supported: expected RSS, Atom or JSON Feed.");
  }
}

interface MediaFile {
  url?: string;
  type?: string;
  medium?: string;
}

/** The pictures and films among media elements (Media RSS 1.5.1), alone or in groups. */
function media(
  it:
    | {
        contents?: MediaFile[];
        group?: { contents?: MediaFile[]; thumbnails?: { url?: string }[] };
        groups?: { contents?: MediaFile[]; thumbnails?: { url?: string }[] }[];
        thumbnails?: { url?: string }[];
      }
    | undefined,
): { pictures: (string | undefined)[]; films: (string | undefined)[] } {
  const groups = [...(it?.groups ?? []), ...(it?.group ? [it.group] : [])];
  const files = [...(it?.contents ?? []), ...groups.flatMap(({ contents = [] }) => contents)];
  const isFilm = ({ type, medium }: MediaFile) => medium === "video" || type?.startsWith("video/");
  const isSound = ({ type, medium }: MediaFile) => medium === "audio" || type?.startsWith("audio/");
  return {
    pictures: [
      ...files.filter((file) => !isFilm(file) && !isSound(file)),
      ...(it?.thumbnails ?? []),
      ...groups.flatMap(({ thumbnails = [] }) => thumbnails),
    ].map(({ url }) => url),
    films: files.filter(isFilm).map(({ url }) => url),
  };
}

/** The first picture of an article's HTML, looked for near its start. */
function firstPicture(html: string | undefined): string | undefined {
  if (!html) return undefined;
  let found: string | undefined;
  const parser = new Parser({
    onopentag(name, { src }) {
      if (name === "img" && src && found === undefined) {
        found = src;
        parser.pause();
      }
    },
  });
  parser.write(html.slice(0, GREATEST.html));
  return found;
}
