/** Feeds that mean harm, over real HTTP: whatever they hold, the work for the others goes on. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Septima } from "../septima";
import { openWorld } from "../test-world";
import { HOSTILE_FEEDS, rssItem as item, rss } from "./hostile";
import { findItems } from "./items";
import { addSource, refreshAll, sources } from "./sources";

type Answer = (response: http.ServerResponse) => void;
const good: Answer = (response) => void response.end(rss(item(1)));

let septima: Septima;
let close: () => Promise<void>;
let server: http.Server;
let base: string;
const answers = new Map<string, Answer>();

beforeAll(async () => {
  server = http.createServer((request, response) => (answers.get(request.url ?? "") ?? good)(response));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const world = await openWorld();
  septima = { ...world.septima, config: { ...world.septima.config, standins: { hostile: base } } };
  close = world.close;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await close();
});

/** Adds a feed while it is well, then makes it what it is. */
async function turning(name: string, answer: Answer): Promise<string> {
  answers.set(`/${name}`, good);
  const id = await addSource(septima, `standin://hostile/${name}`, name);
  answers.set(`/${name}`, answer);
  return id;
}
/** A source with what it holds, newest first. */
async function sourceOf(id: string) {
  const source = (await sources(septima)).find((one) => one.id === id)!;
  const { items } = await findItems(septima, { source: id, order: "newest", limit: 100 });
  return { ...source, items: items.map(({ item }) => item) };
}

describe("a failure is noted in a sentence, and the last good copy stays:", () => {
  test.each<[string, Answer, RegExp]>([
    [
      "cut off in the middle",
      (response) => {
        response.writeHead(200, { "content-length": "5000" });
        response.write(rss(item(1)).slice(0, 60));
        setTimeout(() => response.destroy(), 20);
      },
      /broke off|cannot be reached/,
    ],
    [
      "cut off without saying how long it is",
      (response) => void response.end(rss(item(1) + item(2)).slice(0, -40)),
      /breaks off before its end/,
    ],
    [
      "a redirect to nowhere",
      (response) => void response.writeHead(302, { location: "http://[" }).end(),
      /not an address/,
    ],
    [
      "a redirect in a circle",
      (response) => void response.writeHead(302, { location: `${base}/circle` }).end(),
      /more than 5 times/,
    ],
    [
      "a redirect into the house",
      (response) => void response.writeHead(302, { location: "http://10.0.0.1/" }).end(),
      /private network/,
    ],
    [
      "octets that are no text",
      (response) => void response.end(Buffer.from([0, 1, 2, 255, 254, 0])),
      /is no text/,
    ],
    ["far too much", (response) => void response.end(Buffer.alloc(6_000_000, 32)), /more than 5 MB/],
  ])("%s", async (name, answer, words) => {
    const id = await turning(name === "a redirect in a circle" ? "circle" : encodeURIComponent(name), answer);
    await refreshAll(septima, [id]);
    const source = await sourceOf(id);
    expect(source.failure).toMatch(words);
    expect(source.items.map(({ title }) => title)).toEqual(["Article 1"]);
  });
});

describe("is read as far as it can be:", () => {
  test("NUL and half a character", async () => {
    const id = await turning("odd", (response) =>
      response.end(rss(`<item><title>A&#0;b \ud83d</title><description>x&#xD800;y</description></item>`)),
    );
    await refreshAll(septima, [id]);
    const source = await sourceOf(id);
    if (source.failure === null) {
      expect(JSON.stringify(source.items)).not.toMatch(/\\u0000|\\ud8/i);
      expect((await findItems(septima, { source: id })).items.length).toBe(1);
    } else expect(source.failure).toMatch(/feed|read/);
  });

  test("20,000 items: the newest two hundred", async () => {
    const id = await turning("many", (response) =>
      response.end(rss(Array.from({ length: 20_000 }, (_, n) => item(n)).join(""))),
    );
    await refreshAll(septima, [id]);
    const source = await sourceOf(id);
    expect(source.held).toBe(200);
    expect(source.items[0].title).toBe("Article 19999");
    expect(source.problems.join()).toContain("19800 older left out");
  });

  test.each(Object.entries(HOSTILE_FEEDS))(
    "%s: whatever comes of it, the server answers others meanwhile",
    { timeout: 40_000 },
    async (about, body) => {
      const document = body();
      const id = await turning(encodeURIComponent(about), (response) => void response.end(document));
      const delays = monitorEventLoopDelay({ resolution: 5 });
      delays.enable();
      const start = performance.now();
      await refreshAll(septima, [id]);
      delays.disable();
      const took = performance.now() - start;
      const source = await sourceOf(id);
      if (source.failure) expect(source.failure).toMatch(/feed|takes (longer|more)|could not be read/);
      // Whoever read it here would be held up for as long as that takes; a busy machine holds up a little.
      expect(delays.max / 1e6).toBeLessThan(Math.max(250, took / 3));
    },
  );

  test("Atom’s xml:base says what addresses are relative to", async () => {
    const id = await turning("atom", (response) =>
      response.end(
        `<feed xmlns="http://www.w3.org/2005/Atom" xml:base="https://journal.example/2026/"><title>T</title><id>t</id><updated>2026-01-01T00:00:00Z</updated><entry xml:base="winter/"><id>1</id><title>One</title><link href="beans"/><updated>2026-01-01T00:00:00Z</updated></entry><entry><id>2</id><title>Two</title><link href="peas"/><updated>2026-01-02T00:00:00Z</updated></entry></feed>`,
      ),
    );
    await refreshAll(septima, [id]);
    const { items } = await sourceOf(id);
    expect(items.map(({ link }) => link)).toEqual([
      "https://journal.example/2026/peas",
      "https://journal.example/2026/winter/beans",
    ]);
  });
});

test("sources that hang delay no other: all are read side by side, each with its limit", {
  timeout: 60_000,
}, async () => {
  const hanging = await Promise.all(["h1", "h2", "h3"].map((name) => turning(name, () => undefined)));
  const well = await turning("well", (response) => void response.end(rss(item(2))));
  const begun = Date.now();
  const all = refreshAll(septima, [...hanging, well]);
  await expect.poll(async () => (await sourceOf(well)).items[0].title, { timeout: 5000 }).toBe("Article 2");
  await all;
  expect(Date.now() - begun).toBeLessThan(15_000);
  for (const id of hanging) {
    const source = await sourceOf(id);
    expect(source.failure).toMatch(/did not answer within/);
    expect(source.items).toHaveLength(1);
  }
});
