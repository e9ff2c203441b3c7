/** Feeds that mean harm, for the tests and the bench: no more than 5 MB that take ever so much to read. */

/** A feed with these items. */
export function rss(items: string): string {
  return `<?xml version="1.0"?><rss version="2.0"><channel><title>T</title><link>https://a.example</link><description>x</description>${items}</channel></rss>`;
}

/** One item, a minute later than the one before. */
export function rssItem(n: number, more = ""): string {
  return `<item><title>Article ${n}</title><link>https://a.example/${n}</link><pubDate>${new Date(Date.UTC(2026, 0, 1) + n * 60_000).toUTCString()}</pubDate>${more}</item>`;
}

const described = (html: string) => `<description><![CDATA[${html}]]></description>`;

/** By what they are, in words. */
export const HOSTILE_FEEDS: Readonly<Record<string, () => string>> = {
  "20,000 items": () => rss(Array.from({ length: 20_000 }, (_, n) => rssItem(n)).join("")),
  "`<img ` for 4 MB": () => rss(rssItem(1, described("<img ".repeat(800_000)))),
  "200 items as long as they may be": () =>
    rss(
      Array.from({ length: 200 }, (_, n) =>
        rssItem(
          n,
          described(`<p>${"word ".repeat(4000)}</p>`) + "<category>of a kind</category>".repeat(100),
        ),
      ).join(""),
    ),
  "4 MB of categories": () => rss(rssItem(1, "<category>a</category>".repeat(180_000))),
  "elements nested 500,000 deep": () => rss(`<item>${"<a>".repeat(500_000)}</item>`),
  "4 MB of entities": () => rss(rssItem(1, `<description>${"&amp;lt;".repeat(500_000)}</description>`)),
  "tags that do not end": () => rss("<item".repeat(800_000)),
  "JSON nested a million deep": () => "[".repeat(1_000_000),
  "a JSON Feed of 100,000 items": () =>
    JSON.stringify({
      version: "https://jsonfeed.org/version/1.1",
      title: "T",
      items: Array.from({ length: 100_000 }, (_, n) => ({ id: `${n}`, content_text: "word" })),
    }),
};
