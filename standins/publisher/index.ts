/**
 * The publisher: the demo nursery's journal, served over HTTP as RSS 2.0 and as JSON Feed, growing on demand.
 *
 * `Publisher.answer` takes a path and gives the answer; whoever has an HTTP server puts it behind an address.
 */
import { drawing } from "~/core/drawings";
import { type Answer, drawnPicture } from "../drawn";
import { type JournalArticle, journal } from "./articles";

const DAY = 86_400_000;

/** The articles that come with a film. */
const FILMED = new Set(["Pinching sweet peas", "A bed for no-dig beginners"]);

export class Publisher {
  private extra = 0;

  /** @param base the address the publisher is reached at, without a slash at the end; @param now the moment articles are dated from */
  constructor(
    private readonly base: string,
    private readonly now: () => number,
  ) {}

  /** Publishes one more article. */
  publish(): void {
    this.extra++;
  }

  /** Answers a GET; `null` when there is nothing under the path. Each category has a feed of its own. Paths under `/faults` misbehave on purpose. */
  async answer(path: string): Promise<Answer | null> {
    switch (path) {
      case "/journal.rss":
        return { status: 200, type: "application/rss+xml", body: this.rss() };
      case "/journal.json":
        return { status: 200, type: "application/feed+json", body: this.json() };
      case "/faults/500.rss":
        return { status: 500, type: "text/plain", body: "The press has jammed." };
      case "/faults/garbage.rss":
        return {
          status: 200,
          type: "application/rss+xml",
          body: "<html><body>Not a feed at all</body></html>",
        };
      case "/faults/dates.rss":
        return {
          status: 200,
          type: "application/rss+xml",
          body: this.rss().replace(/<pubDate>[^<]*<\/pubDate>/g, "<pubDate>the day after market</pubDate>"),
        };
    }
    const section = /^\/journal\/([a-z]+)\.rss$/.exec(path)?.[1];
    const within = this.articles().filter((it) => it.category.toLowerCase() === section);
    if (within.length > 0)
      return {
        status: 200,
        type: "application/rss+xml",
        body: this.rss(`The Tansy Row journal: ${within[0].category}`, within),
      };
    const film = /^\/films\/([a-z-]+)$/.exec(path);
    const shown = film && drawing(film[1]);
    if (film && shown) return { status: 200, type: "text/html", body: this.film(film[1]) };
    return drawnPicture(path);
  }

  private articles(): (JournalArticle & {
    date: Date;
    link: string;
    image: string | null;
    film: string | null;
  })[] {
    return journal(this.extra).map((article) => ({
      ...article,
      date: new Date(Math.floor(this.now() / DAY) * DAY - article.age * DAY + 7 * 3_600_000),
      link: `https://journal.tansyrow.example/${article.slug}`,
      image: article.picture && `${this.base}/pictures/${article.picture}.png`,
      film: FILMED.has(article.title) ? `https://films.tansyrow.example/${article.slug}` : null,
    }));
  }

  /** The page of a film: what it is called, and which picture stands for it. */
  private film(name: string): string {
    const title = `A film: ${name.replaceAll("-", " ")}`;
    return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${xml(title)}</title><meta property="og:title" content="${xml(title)}"><meta property="og:image" content="${this.base}/pictures/${name}.png"></head><body><h1>${xml(title)}</h1><p>The film would run here.</p></body></html>`;
  }

  private rss(title = "The Tansy Row journal", articles = this.articles()): string {
    const items = articles.map(
      (it) =>
        `<item><title>${xml(it.title)}</title><link>${xml(it.link)}</link><guid isPermaLink="true">${xml(it.link)}</guid>` +
        `<pubDate>${it.date.toUTCString()}</pubDate><category>${xml(it.category)}</category>` +
        `<description>${xml(it.summary || "A short note from the bench.")}</description>` +
        `${it.image ? `<enclosure url="${xml(it.image)}" type="image/png" length="0"/>` : ""}${it.film ? `<enclosure url="${xml(it.film)}" type="video/mp4" length="0"/>` : ""}</item>`,
    );
    return `<?xml version="1.0" encoding="UTF-8"?><rss version="2.0"><channel><title>${xml(title)}</title><link>https://journal.tansyrow.example/</link><description>Notes from the potting bench</description>${items.join("")}</channel></rss>`;
  }

  private json(): string {
    return JSON.stringify({
      version: "https://jsonfeed.org/version/1.1",
      title: "The Tansy Row journal",
      home_page_url: "https://journal.tansyrow.example/",
      items: this.articles().map((it) => ({
        id: it.link,
        url: it.link,
        title: it.title,
        content_html: it.summary,
        image: it.image ?? undefined,
        date_published: it.date.toISOString(),
        tags: [it.category],
      })),
    });
  }
}

function xml(text: string): string {
  return text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");
}
