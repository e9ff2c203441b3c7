/** Sources over real HTTP: read into items, read again, changed, sought; whatever fails keeps the last good copy. */
import http, { type IncomingMessage } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { Septima } from "../septima";
import { openWorld } from "../test-world";
import { categoriesOf, findItems, type ItemQuery } from "./items";
import { addFile, addSource, refreshDue, refreshSource, setMapping, setSource, sources } from "./sources";

let septima: Septima;
let close: () => Promise<void>;
let server: http.Server;
let base: string;
let now = Date.parse("2026-03-01T09:00:00Z");
/** What each path answers, and what was asked of it. */
const pages = new Map<string, { body: string; etag?: string; stop?: number }>();
const asked: IncomingMessage[] = [];

beforeAll(async () => {
  server = http.createServer((request, response) => {
    asked.push(request);
    const page = pages.get(request.url ?? "");
    if (!page) return void response.writeHead(404).end();
    if (page.etag && request.headers["if-none-match"] === page.etag)
      return void response.writeHead(304).end();
    response.writeHead(200, { ...(page.etag && { etag: page.etag }) });
    if (page.stop === undefined) return void response.end(page.body);
    response.write(page.body.slice(0, page.stop));
    setTimeout(() => response.destroy(), 20);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const world = await openWorld();
  septima = {
    ...world.septima,
    now: () => now,
    config: { ...world.septima.config, standins: { shop: base } },
  };
  close = world.close;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await close();
});
beforeEach(async () => {
  await septima.db.query("delete from sources");
  asked.length = 0;
});

const HEAD = "id,title,price,sale_price,stock,category,link,image,description\n";
const GOODS = `${HEAD}b1,Runner beans,3.50 GBP,,12,Seeds > Beans,/beans,/beans.png,Climbs to eight feet
p1,Crème peas,2.00 GBP,1.50 GBP,3,Seeds > Peas,/peas,,Sweet and early
t1,Trowel,14.00 GBP,,0,Tools,/trowel,/trowel.png,Forged from one piece
`;
const source = async (id: string) => (await sources(septima)).find((one) => one.id === id)!;
const titles = async (query: ItemQuery) =>
  (await findItems(septima, query)).items.map(({ item }) => item.title);
const serve = (body: string, more: { etag?: string; stop?: number } = {}) =>
  pages.set("/goods.csv", { body, ...more });
const added = (body = GOODS) => {
  serve(body);
  return addSource(septima, "standin://shop/goods.csv");
};

test("a catalogue is read by what its columns most likely mean, each item in a row of its own", async () => {
  const id = await added();
  expect(await source(id)).toMatchObject({
    name: "goods",
    kind: "catalogue",
    format: "table",
    held: 3,
    problems: [],
    changes: null,
  });
  const { items, total } = await findItems(septima, { source: id });
  expect(total).toBe(3);
  expect(items[1].item).toMatchObject({
    id: "p1",
    title: "Crème peas",
    price: 2,
    sale: 1.5,
    currency: "GBP",
    stock: 3,
    category: ["Seeds", "Peas"],
    link: `${base}/peas`,
    picture: null,
  });
  expect(
    (await findItems(septima, { source: id, order: "given" })).items.map(({ item }) => item.title),
  ).toEqual(["Runner beans", "Crème peas", "Trowel"]);
});

describe("is sought", () => {
  test.each<[string, ItemQuery, string[]]>([
    ["by the beginning of words, whatever their accents", { words: "creme PE" }, ["Crème peas"]],
    ["by its text", { words: "forged" }, ["Trowel"]],
    ["by a category of any step", { category: "Seeds" }, ["Runner beans", "Crème peas"]],
    ["by what it costs now", { from: 1, to: 2 }, ["Crème peas"]],
    ["by there being some", { inStock: true }, ["Runner beans", "Crème peas"]],
    ["the cheapest first", { order: "cheapest" }, ["Crème peas", "Runner beans", "Trowel"]],
    ["what saves most first", { order: "saving" }, ["Crème peas", "Runner beans", "Trowel"]],
    ["by name", { order: "name" }, ["Crème peas", "Runner beans", "Trowel"]],
    ["with signs that mean something to the database", { words: "be%ans' & | ! :*" }, []],
    ["some at a time", { order: "name", limit: 1, offset: 1 }, ["Runner beans"]],
  ])("%s", async (_about, query, found) => {
    await added();
    expect(await titles(query)).toEqual(found);
  });

  test("with its categories counted", async () => {
    const id = await added();
    expect(await categoriesOf(septima, id)).toEqual([
      { name: "Seeds", count: 2 },
      { name: "Beans", count: 1 },
      { name: "Peas", count: 1 },
      { name: "Tools", count: 1 },
    ]);
  });
});

describe("read again,", () => {
  test("what is new, gone, cheaper, sold out and back is told, with what it was", async () => {
    const id = await added();
    now += 60_000;
    serve(`${HEAD}b1,Runner beans,3.50 GBP,2.50 GBP,12,Seeds > Beans,/beans,/beans.png,Climbs
p1,Crème peas,2.00 GBP,1.50 GBP,0,Seeds > Peas,/peas,,Sweet and early
n1,Dibber,9.00 GBP,,5,Tools,/dibber,,New
`);
    expect(await refreshSource(septima, id)).toBeNull();
    expect((await source(id)).changes).toEqual({ new: 1, gone: 1, back: 0, price: 1, stock: 1 });
    const of = async (changed: ItemQuery["changed"]) =>
      (await findItems(septima, { source: id, changed })).items.map(({ item, changed: it, gone }) => [
        item.title,
        it?.was ?? null,
        gone,
      ]);
    expect(await of("new")).toEqual([["Dibber", null, false]]);
    expect(await of("gone")).toEqual([["Trowel", null, true]]);
    expect(await of("price")).toEqual([["Runner beans", { price: 3.5, currency: "GBP" }, false]]);
    expect(await of("stock")).toEqual([["Crème peas", 3, false]]);
    expect(await titles({ source: id })).toEqual(["Runner beans", "Crème peas", "Dibber"]);
    now += 60_000;
    serve(GOODS);
    await refreshSource(septima, id);
    expect((await source(id)).changes).toEqual({ new: 0, gone: 1, back: 1, price: 1, stock: 1 });
    const history = await septima.db.query(
      "select what, was, is_now from item_changes where source = $1 and item = 'b1' order by at",
      [id],
    );
    expect(history).toEqual([
      {
        what: "price",
        was: { price: 3.5, currency: "GBP" },
        is_now: { price: 3.5, sale: 2.5, currency: "GBP" },
      },
      {
        what: "price",
        was: { price: 3.5, sale: 2.5, currency: "GBP" },
        is_now: { price: 3.5, currency: "GBP" },
      },
    ]);
  });

  test("a shop that counts anew every time has the same things, told by where they lead", async () => {
    const id = await added();
    serve(GOODS.replace(/^([bpt])1,/gm, "x$1-2,"));
    await refreshSource(septima, id);
    expect((await source(id)).changes).toBeNull();
    expect((await findItems(septima, { source: id })).items.map(({ item }) => item.id)).toEqual([
      "b1",
      "p1",
      "t1",
    ]);
  });

  test("its server is asked whether there is anything new, and nothing is read when there is not", async () => {
    serve(GOODS, { etag: '"one"' });
    const id = await addSource(septima, "standin://shop/goods.csv");
    now += 3_600_000;
    pages.delete("/goods.csv");
    expect(await refreshSource(septima, id)).toMatch(/answered 404/);
    now += 3_600_000;
    serve("this would be refused", { etag: '"one"' });
    expect(await refreshSource(septima, id)).toBeNull();
    expect((await source(id)).failure).toBeNull();
    expect(asked.at(-1)?.headers["if-none-match"]).toBe('"one"');
    expect(await source(id)).toMatchObject({ held: 3, refreshedAt: new Date(now).toISOString() });
    serve(GOODS.replace("Trowel", "Spade"), { etag: '"two"' });
    await refreshSource(septima, id);
    expect(await titles({ words: "spade" })).toEqual(["Spade"]);
  });

  test.each<[string, () => void, RegExp]>([
    ["away", () => pages.delete("/goods.csv"), /answered 404/],
    ["stopping half way", () => serve(GOODS, { stop: 120 }), /broke off/],
    ["cut in a cell", () => serve(GOODS.slice(0, -40)), /stops half way: line 4/],
    ["a web page now", () => serve("<!doctype html><p>Maintenance</p>"), /found a web page/],
    ["something else now", () => serve('[{"title":"Beans"}]'), /was CSV, and now it is JSON/],
    ["without titles", () => serve("id,price\n1,2\n2,3\n"), /None of it could be read.*Line 2 has no title/],
  ])("%s: the last good copy stays, and why is told", async (_about, turn, words) => {
    const id = await added();
    turn();
    expect(await refreshSource(septima, id)).toMatch(words);
    expect(await source(id)).toMatchObject({ held: 3, failure: expect.stringMatching(words) });
    expect(await titles({ source: id, order: "given" })).toEqual(["Runner beans", "Crème peas", "Trowel"]);
    expect(await septima.db.query("select 1 from items_read")).toEqual([]);
    serve(GOODS);
    expect(await refreshSource(septima, id)).toBeNull();
    expect((await source(id)).failure).toBeNull();
  });

  test("each by its own rhythm, and never where it is never to be", async () => {
    const often = await added();
    const seldom = await added();
    const never = await added();
    await setSource(septima, often, { name: "Often", every: 10, stopsAfter: null });
    await setSource(septima, seldom, { name: "Seldom", every: 1440, stopsAfter: null });
    await setSource(septima, never, { name: "Never", every: null, stopsAfter: null });
    asked.length = 0;
    now += 9 * 60_000;
    await refreshDue(septima);
    expect(asked).toHaveLength(0);
    now += 60_000;
    await refreshDue(septima);
    expect(asked).toHaveLength(1);
    expect((await source(often)).refreshedAt).toBe(new Date(now).toISOString());
    await refreshDue(septima);
    expect(asked).toHaveLength(1);
    now += 86_400_000;
    await refreshDue(septima);
    expect(asked).toHaveLength(3);
  });
});

test("what its columns mean is corrected, and everything is read anew by that", async () => {
  const id = await added("ref,headline,words,rooms\nA,Cottage,By the sea,3\nB,Barn,To be done up,5\n");
  expect(await source(id)).toMatchObject({ kind: "records" });
  const { mapping } = await source(id);
  const columns = mapping!.columns.map((column) =>
    column.name === "words"
      ? { ...column, target: { to: "part" as const, part: "title" as const } }
      : column.name === "headline"
        ? { ...column, target: { to: "nothing" as const } }
        : column,
  );
  await setMapping(septima, id, { ...mapping!, columns });
  expect(await titles({ source: id })).toEqual(["By the sea", "To be done up"]);
  expect((await findItems(septima, { source: id })).items[0].item.facts).toEqual({ rooms: 3 });
  await expect(setMapping(septima, id, { columns: [], currency: "" })).rejects.toThrow(
    "which column is the title",
  );
  // What is corrected stays so.
  await refreshSource(septima, id);
  expect(await titles({ source: id })).toEqual(["By the sea", "To be done up"]);
});

test("a file that is given by hand is kept, and read by a corrected mapping again", async () => {
  const { writeFile } = await import("node:fs/promises");
  await writeFile(await septima.files.place("sources/houses"), "headline;rooms\nCottage;3\nBarn;5\n");
  await septima.files.keep("sources/houses");
  const id = await addFile(septima, "sources/houses", "Houses 2026.csv");
  expect(await source(id)).toMatchObject({
    name: "Houses 2026",
    fileName: "Houses 2026.csv",
    every: null,
    held: 2,
    address: "",
  });
  const { mapping } = await source(id);
  await setMapping(septima, id, {
    ...mapping!,
    columns: mapping!.columns.map((column) =>
      column.name === "rooms" ? { ...column, target: { to: "nothing" as const } } : column,
    ),
  });
  expect((await findItems(septima, { source: id })).items[0].item.facts).toEqual({});
});

test("a calendar's items are the next ones, soonest first", async () => {
  const event = (uid: string, day: string) =>
    `BEGIN:VEVENT\r\nUID:${uid}\r\nSUMMARY:${uid}\r\nDTSTART:${day}T100000Z\r\nDTEND:${day}T110000Z\r\nEND:VEVENT\r\n`;
  const soon = new Date(now + 3 * 86_400_000).toISOString().slice(0, 10).replaceAll("-", "");
  const later = new Date(now + 9 * 86_400_000).toISOString().slice(0, 10).replaceAll("-", "");
  pages.set("/all.ics", {
    body: `BEGIN:VCALENDAR\r\nX-WR-CALNAME:Workshops\r\n${event("Later", later)}${event("Soon", soon)}END:VCALENDAR\r\n`,
  });
  const id = await addSource(septima, "standin://shop/all.ics");
  expect(await source(id)).toMatchObject({ kind: "calendar", name: "Workshops", held: 2 });
  expect(
    (await findItems(septima, { source: id, order: "soonest" })).items.map(({ item }) => item.title),
  ).toEqual(["Soon", "Later"]);
});

test("200,000 lines: the rest is told, memory stays flat, and typing finds at once", {
  timeout: 240_000,
}, async () => {
  const lines = Array.from(
    { length: 200_050 },
    (_, n) => `${n},Item number ${n} of ${n % 97},${n % 100}.50,/i/${n},Group ${n % 40}\n`,
  );
  serve(`id,title,price,link,category\n${lines.join("")}`);
  const before = process.memoryUsage().heapUsed;
  const id = await addSource(septima, "standin://shop/goods.csv");
  expect(process.memoryUsage().heapUsed - before).toBeLessThan(150_000_000);
  expect(await source(id)).toMatchObject({
    held: 200_000,
    problems: ["Only the first 200,000 are kept, 50 left out"],
  });
  expect(await titles({ source: id, words: "number 199999" })).toEqual(["Item number 199999 of 82"]);
  const { total } = await findItems(septima, { words: "it" });
  expect(total).toBe(1000);
});
