import { expect, test } from "vitest";
import { htmlToPlain, parseFeed, SourceError } from ".";

const rss = (items: string) =>
  `<?xml version="1.0"?><rss version="2.0"><channel><title>A &amp; B</title><link>https://a.example</link><description>x</description>${items}</channel></rss>`;

test("RSS: newest first, markup and entities resolved, relative links made whole", () => {
  const feed = parseFeed(
    rss(
      "<item><title>Old</title><link>/old</link><pubDate>Mon, 02 Feb 2026 10:00:00 GMT</pubDate><description>&lt;p&gt;One&amp;nbsp;&lt;b&gt;two&lt;/b&gt; &amp;#8212; three&lt;/p&gt;&lt;script&gt;bad()&lt;/script&gt;</description></item>" +
        '<item><title>New</title><link>https://a.example/new</link><pubDate>Tue, 03 Feb 2026 10:00:00 GMT</pubDate><enclosure url="https://a.example/p.png" type="image/png" length="1"/></item>',
    ),
    "https://a.example/feed",
  );
  expect(feed.title).toBe("A & B");
  expect(feed.items.map((it) => it.title)).toEqual(["New", "Old"]);
  expect(feed.items[0]).toMatchObject({
    picture: "https://a.example/p.png",
    date: "2026-02-03T10:00:00.000Z",
  });
  expect(feed.items[1]).toMatchObject({ link: "https://a.example/old", text: "One two — three" });
});

test("Atom and JSON Feed give the same shape", () => {
  const atom = parseFeed(
    '<feed xmlns="http://www.w3.org/2005/Atom"><title>T</title><id>t</id><updated>2026-01-01T00:00:00Z</updated><entry><id>1</id><title>One</title><link href="https://a.example/1"/><updated>2026-01-01T00:00:00Z</updated><summary>Words</summary></entry></feed>',
    "https://a.example",
  );
  const json = parseFeed(
    JSON.stringify({
      version: "https://jsonfeed.org/version/1.1",
      title: "T",
      items: [
        {
          id: "1",
          title: "One",
          url: "https://a.example/1",
          summary: "Words",
          date_published: "2026-01-01T00:00:00Z",
        },
      ],
    }),
    "https://a.example",
  );
  expect(json).toEqual(atom);
  expect(atom.items[0]).toMatchObject({
    title: "One",
    text: "Words",
    date: "2026-01-01T00:00:00.000Z",
  });
});

test("wrong dates and empty entries are named, script links dropped", () => {
  const feed = parseFeed(
    rss(
      "<item><title>A</title><pubDate>the day after market</pubDate><link>javascript:alert(1)</link></item><item><link>https://a.example/x</link></item>",
    ),
    "https://a.example",
  );
  expect(feed.items).toHaveLength(1);
  expect(feed.items[0]).toMatchObject({ date: null, link: "" });
  expect(feed.problems).toEqual([
    "1 article has no readable date and stand last",
    "1 entry without title and text left out",
  ]);
});

test("what is no feed is refused with what it is", () => {
  expect(() => parseFeed("<!doctype html><html></html>", "https://a.example")).toThrow(/found a web page/);
  expect(() => parseFeed("", "https://a.example")).toThrow(SourceError);
  expect(() => parseFeed('{"a":1}', "https://a.example")).toThrow(/other JSON/);
  expect(() => parseFeed("\u0000\u0001garbage", "https://a.example")).toThrow(SourceError);
});

test("HTML to plain text", () => {
  expect(htmlToPlain("a<br>b<style>p{}</style><p>c &lt;d&gt;</p>")).toBe("a b c <d>");
});

test("a film is what is joined to an article and says so, in each kind of feed", () => {
  const film = "https://films.example/a";
  const rss = `<rss version="2.0"><channel><title>T</title><item><title>A</title><enclosure url="${film}" type="video/mp4" length="0"/></item></channel></rss>`;
  const atom = `<feed xmlns="http://www.w3.org/2005/Atom"><title>T</title><id>t</id><updated>2026-01-01T00:00:00Z</updated><entry><title>A</title><id>a</id><updated>2026-01-01T00:00:00Z</updated><link rel="enclosure" type="video/mp4" href="${film}"/></entry></feed>`;
  const json = JSON.stringify({
    version: "https://jsonfeed.org/version/1.1",
    title: "T",
    items: [{ id: "a", title: "A", attachments: [{ url: film, mime_type: "video/mp4" }] }],
  });
  for (const text of [rss, atom, json])
    expect(parseFeed(text, "https://x.example/").items[0].film).toBe(film);
});
