/** The door: what it takes, from whom, how often, and that it counts once. */

import type { Server } from "node:http";
import type { AddressInfo } from "node:net";
import { Validator } from "@seriousme/openapi-schema-validator";
import express from "express";
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import { addContacts } from "~/server/audience/contacts";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { knock } from "~/server/door/door";
import { doorKeys, makeKey, withdrawKey } from "~/server/door/keys";
import { PURPOSE_NAMES, PURPOSES, type Purpose } from "~/server/door/shapes";
import type { Septima } from "~/server/septima";
import { addBatch } from "~/server/sources/codes";
import { findItems } from "~/server/sources/items";
import { refreshSource, sources } from "~/server/sources/sources";
import { addList, openWorld } from "~/server/test-world";
import { doorAt, keepShopKey, letShopLive, letShopWork } from "./demo/shop-life";
import { doorFor } from "./door";

let septima: Septima;
let close: () => Promise<void>;
let server: Server;
let base: string;
let now = Date.parse("2026-03-05T12:00:00Z");
let key: string;

beforeAll(async () => {
  const world = await openWorld();
  septima = { ...world.septima, now: () => now };
  close = world.close;
  const app = express().use("/in", doorFor(septima));
  server = app.listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/in`;
  await addList(septima, "letter", "Letter");
  await addContacts(septima, [{ email: "Ines@post.example", fields: {}, lists: [] }]);
  await addBatch(
    septima,
    { key: "spring", name: "Spring", per: "campaign", example: "EXAMPLE", low: 0, ends: null },
    "FIRST",
  );
  key = await makeKey(septima, { name: "Our shop", may: [...PURPOSE_NAMES], most: 6000 });
});
afterAll(async () => {
  server.close();
  await close();
});
let batches = 0;
beforeEach(() => {
  now += 60_000;
});

async function send(
  what: string,
  entries: unknown[],
  { batch = `b${++batches}`, by = key }: { batch?: string; by?: string } = {},
) {
  const response = await fetch(`${base}/${what}`, {
    method: "POST",
    headers: { authorization: `Bearer ${by}`, "content-type": "application/json" },
    body: JSON.stringify({ batch, entries }),
  });
  return { status: response.status, headers: response.headers, said: await response.json() };
}
const rows = <T>(sql: string) => septima.db.query<T>(sql);

test("its description is OpenAPI 3.1, and each of its examples is taken", async () => {
  const described = await (await fetch(`${base}/openapi.json`)).json();
  const checked = await new Validator().validate(structuredClone(described));
  expect(checked.errors ?? []).toEqual([]);
  expect(checked.valid).toBe(true);
  expect(described.openapi).toBe("3.1.0");
  expect(Object.keys(described.paths)).toEqual(PURPOSE_NAMES.map((name) => `/in/${name}`));
  for (const path of Object.keys(described.paths)) {
    const { examples } = described.paths[path].post.requestBody.content["application/json"];
    const response = await fetch(`${base}${path.slice("/in".length)}`, {
      method: "POST",
      headers: { authorization: `Bearer ${key}` },
      body: JSON.stringify(examples.one.value),
    });
    expect([path, response.status, await response.json()]).toEqual([
      path,
      200,
      { taken: 1, left: [], repeated: false },
    ]);
  }
  // What is described is what checks.
  const { eventsBatch } = described.components.schemas;
  expect(eventsBatch.properties.entries.maxItems).toBe(1000);
  expect(eventsBatch.properties.entries.items.required).toEqual(["email", "what"]);
});

test("contacts are added and changed by their address, join and leave lists; what does not fit is named", async () => {
  const { said } = await send("contacts", [
    { email: "new@post.example", fields: { first_name: "Odo", birthday: "1990-02-30" } },
    { email: "new@post.example", fields: { first_name: "Odo" }, join: ["letter"] },
    { email: "INES@post.example", fields: { first_name: null, last_name: "Calder", language: "de" } },
    { email: "other@post.example", fields: { shoe: 43 }, leave: ["nowhere"] },
  ]);
  expect(said).toEqual({
    taken: 2,
    repeated: false,
    left: [
      { at: "entries/0/fields/birthday", says: "Birthday is a day, as 2026-03-02." },
      { at: "entries/3/fields/shoe", says: "There is no such field." },
      { at: "entries/3/leave/0", says: "There is no such list." },
    ],
  });
  const all = await rows(
    `select email, fields, status, array(select list_id from list_members m where m.contact_id = c.id) as lists
     from contacts c order by lower(email)`,
  );
  expect(all).toEqual([
    {
      email: "Ines@post.example",
      fields: { last_name: "Calder", language: "de" },
      status: "unsubscribed",
      lists: ["letter"],
    },
    {
      email: "new@post.example",
      fields: { first_name: "Odo", consent_source: "Our shop", consent_date: "2026-03-05" },
      status: "subscribed",
      lists: ["letter"],
    },
  ]);
});

test("who unsubscribes stays so, whatever is said of them later", async () => {
  const { said } = await send("unsubscribes", [
    { email: "new@post.example" },
    { email: "nobody@post.example" },
  ]);
  expect(said).toMatchObject({ taken: 1, left: [{ at: "entries/1" }] });
  await send("contacts", [{ email: "new@post.example", join: ["letter"] }]);
  expect(await rows("select status from contacts where email = 'new@post.example'")).toEqual([
    { status: "unsubscribed" },
  ]);
  expect(await rows("select way from unsubscribes order by id desc limit 1")).toEqual([{ way: "door" }]);
});

test("events are kept of those who are known", async () => {
  const { said } = await send("events", [
    { email: "ines@post.example", what: "viewed", item: "7" },
    { email: "ines@post.example", what: "rang_the_bell", at: "2026-03-01T10:00:00+02:00" },
    { email: "nobody@post.example", what: "viewed", item: "7" },
  ]);
  expect(said).toMatchObject({
    taken: 2,
    left: [{ at: "entries/2", says: "Nobody here has this address." }],
  });
  expect(await rows("select what, item, at from deeds order by at desc limit 2")).toEqual(
    [
      { what: "viewed", item: "1001", at: new Date("2026-03-02T09:30:00Z") },
      { what: "rang_the_bell", item: null, at: new Date("2026-03-01T08:00:00Z") },
    ]
      .toSpliced(
        0,
        1,
        { what: "viewed", item: "7", at: new Date(now) },
        { what: "viewed", item: "1001", at: new Date("2026-03-02T09:30:00Z") },
      )
      .slice(0, 2),
  );
});

test("an order that comes again under its number takes the place of the one before", async () => {
  const line = (item: string, price: number, quantity = 1) => ({ item, name: item, price, quantity });
  await send("orders", [
    { number: "1", email: "ines@post.example", currency: "GBP", lines: [line("a", 0.1, 3), line("b", 2.2)] },
    { number: "2", email: "ines@post.example", currency: "JPY", lines: [line("a", 500)] },
  ]);
  await send("orders", [
    { number: "1", email: "ines@post.example", currency: "GBP", lines: [line("c", 19.99)] },
  ]);
  expect(
    await rows(
      `select number, total::int, array_agg(product || ' ' || price order by line) as lines from orders o
       join order_lines l on l.order_id = o.id where number in ('1', '2') group by o.id order by number`,
    ),
  ).toEqual([
    { number: "1", total: 1999, lines: ["c 1999"] },
    { number: "2", total: 500, lines: ["a 500"] },
  ]);
});

test("items make a catalogue of the key's own, changed one by one; what ends is gone and the others stay", async () => {
  const name = "A catalogue";
  const by = await makeKey(septima, { name, may: ["items"], most: 6000 });
  await send(
    "items",
    [
      { id: "a", title: "Spade", price: 20, currency: "GBP", stock: 3 },
      { id: "b", title: "Rake", date: "2026-03-01T10:00:00+02:00" },
      { id: "c", title: "Hoe" },
    ],
    { by },
  );
  await send(
    "items",
    [
      { id: "a", title: "Spade", price: 18, currency: "GBP", stock: 0 },
      { id: "c", title: "Hoe", gone: true },
    ],
    { by },
  );
  const [source] = await rows<{ id: string; held: number; changes: unknown }>(
    `select id, held, changes from sources where name = '${name}'`,
  );
  expect(source).toMatchObject({ held: 2, changes: { price: 1, stock: 1, gone: 1 } });
  const { items } = await findItems(septima, { source: source.id, order: "given" });
  expect(items.map(({ item }) => item)).toMatchObject([
    { id: "a", price: 18, stock: 0 },
    { id: "b", date: "2026-03-01T08:00:00.000Z" },
  ]);
  const found = await findItems(septima, { source: source.id, words: "rak" });
  expect(found.items).toHaveLength(1);
  // Nobody fetches it, also when asked to.
  expect((await sources(septima)).find(({ id }) => id === source.id)).toMatchObject({ comes: "door" });
  expect(await refreshSource(septima, source.id)).toBeNull();
  expect((await sources(septima)).find(({ id }) => id === source.id)).toMatchObject({
    held: 2,
    failure: null,
  });
});

test("codes go to a batch there is", async () => {
  const { said } = await send("codes", [
    { list: "spring", code: "SECOND" },
    { list: "spring", code: "FIRST" },
    { list: "autumn", code: "LEAF" },
  ]);
  expect(said).toMatchObject({ taken: 2, left: [{ at: "entries/2/list" }] });
  expect(await rows("select code from codes where batch = 'spring' order by place")).toEqual(
    ["FIRST", "BEAN-7Q2M", "SECOND"].map((code) => ({ code })),
  );
});

describe("a batch", () => {
  const event = (what: string) => [{ email: "ines@post.example", what }];
  const count = async (what: string) =>
    (await rows<{ n: number }>(`select count(*)::int as n from deeds where what = '${what}'`))[0].n;

  test("that is sent twice, also at once, counts once, and is told the same", async () => {
    const both = await Promise.all([
      send("events", event("twice"), { batch: "t" }),
      send("events", event("twice"), { batch: "t" }),
    ]);
    expect(both.map(({ said }) => said.taken)).toEqual([1, 1]);
    expect(both.map(({ said }) => said.repeated).sort()).toEqual([false, true]);
    const [wrong, again] = [
      await send("events", [{ email: "nobody@post.example", what: "twice" }], { batch: "w" }),
      await send("events", [{ email: "nobody@post.example", what: "twice" }], { batch: "w" }),
    ];
    expect(again.said).toEqual({ ...wrong.said, repeated: true });
    expect(await count("twice")).toBe(1);
  });

  test("under a name that another had is refused; another key, or another path, has names of its own", async () => {
    await send("events", event("first"), { batch: "name" });
    const other = await send("events", event("second"), { batch: "name" });
    expect([other.status, await count("second")]).toEqual([409, 0]);
    const by = await makeKey(septima, { name: "Another", may: ["events"], most: 6000 });
    expect((await send("events", event("second"), { batch: "name", by })).status).toBe(200);
    expect((await send("unsubscribes", [{ email: "x@post.example" }], { batch: "name" })).status).toBe(200);
  });

  test("with something wrong is not taken at all, and every wrong field is named", async () => {
    const { status, said } = await send("orders", [
      {
        number: "9",
        email: "ines@post.example",
        currency: "GBP",
        lines: [{ item: "a", name: "A", quantity: 1, price: 1 }],
      },
      {
        number: "10",
        email: "not an address",
        currency: "gbp",
        lines: [{ item: "a", name: "A", quantity: 0, price: "1" }],
        extra: 1,
      },
    ]);
    expect(status).toBe(422);
    expect(said.wrong.map(({ at }: { at: string }) => at).sort()).toEqual([
      "entries/1",
      "entries/1/currency",
      "entries/1/email",
      "entries/1/lines/0/price",
      "entries/1/lines/0/quantity",
    ]);
    expect(await rows("select 1 from orders where number in ('9', '10')")).toEqual([]);
    const many = await send(
      "events",
      Array.from({ length: 1001 }, () => event("many")[0]),
    );
    expect([many.status, many.said.wrong[0].at]).toEqual([422, "entries"]);
  });

  test("that is no JSON, or larger than may be, is refused", async () => {
    const post = (body: string) =>
      fetch(`${base}/events`, { method: "POST", headers: { authorization: `Bearer ${key}` }, body });
    expect((await post("{")).status).toBe(400);
    const large = await post(`"${"x".repeat(11_000_000)}"`);
    expect([large.status, (await large.json()).problem]).toEqual([
      400,
      "A batch may have 10 MB. Send it in parts.",
    ]);
  });
});

describe("a key", () => {
  const one: Parameters<typeof send>[1] = [{ email: "ines@post.example", what: "knocked" }];

  test("is for what it may do, and nothing once it is withdrawn", async () => {
    const by = await makeKey(septima, { name: "Only orders", may: ["orders"], most: 600 });
    expect((await send("events", one, { by })).status).toBe(403);
    const [listed] = await doorKeys(septima);
    expect(listed).toMatchObject({
      name: "Only orders",
      may: ["orders"],
      usedAt: new Date(now).toISOString(),
      withdrawnAt: null,
    });
    await withdrawKey(septima, listed.id);
    const after = await send("orders", [PURPOSES.orders.example], { by });
    expect([after.status, after.headers.get("www-authenticate")]).toEqual([401, "Bearer"]);
  });

  test("that is changed in a letter, or missing, opens nothing; its secret is kept nowhere", async () => {
    const changed = key.replace(/.$/, (last) => (last === "A" ? "B" : "A"));
    expect((await send("events", one, { by: changed })).status).toBe(401);
    expect((await fetch(`${base}/events`, { method: "POST", body: "{}" })).status).toBe(401);
    const kept = JSON.stringify(await rows("select * from door_keys"));
    expect(kept).not.toContain(key.split(".")[1]);
  });

  test("that is used too often is told when to come again, and is heard then", async () => {
    const by = await makeKey(septima, { name: "Slow", may: ["events"], most: 60 });
    const statuses: number[] = [];
    for (let at = 0; at < 11; at++) statuses.push((await send("events", one, { by })).status);
    expect(statuses).toEqual([...Array(10).fill(200), 429]);
    const { headers } = await send("events", one, { by });
    const wait = Number(headers.get("retry-after"));
    expect(wait).toBe(1);
    now += wait * 1000;
    expect((await send("events", one, { by })).status).toBe(200);
  });
});

test.each(["", "/nothing", "/events"])(
  "whatever else is asked of the door%s is answered in JSON",
  async (path) => {
    const response = await fetch(`${base}${path}`);
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect((await response.json()).problem).toContain("openapi.json");
  },
);

test("all purposes have a path, words and an example", () => {
  for (const name of PURPOSE_NAMES as Purpose[])
    expect(PURPOSES[name].entry.safeParse(PURPOSES[name].example).error).toBeUndefined();
});

test.skipIf(serverPrograms() === null)(
  "on a server several processes take at once what is sent at once: the same batch counts once, and nobody waits for ever",
  { timeout: 60_000 },
  async () => {
    const postgres = await startServer();
    const dbs = [0, 1, 2].map(() => openServer(postgres.url));
    try {
      await migrate(dbs[0], "server/db/migrations");
      const worlds = dbs.map((db): Septima => ({ ...septima, db, cache: new Map() }));
      const emails = Array.from({ length: 20 }, (_, at) => `reader${at}@post.example`);
      await addContacts(
        worlds[0],
        emails.map((email) => ({ email, fields: {}, lists: [] })),
      );
      const by = await makeKey(worlds[0], { name: "Our shop", may: [...PURPOSE_NAMES], most: 6000 });
      const tell = (world: Septima, what: Purpose, batch: string, entries: unknown[]) =>
        knock(world, what, `Bearer ${by}`, JSON.stringify({ batch, entries }));
      const viewed = emails.map((email) => ({ email, what: "viewed", item: "1" }));
      const order = (email: string, at: number) => ({
        number: `S-${at}`,
        email,
        currency: "GBP",
        lines: [{ item: "1", name: "Beans", quantity: 1, price: 1 }],
      });
      // The same people, orders and items in every order.
      const turned = <T>(all: T[], at: number) => [...all.slice(at), ...all.slice(0, at)];
      const said = await Promise.all(
        worlds.flatMap((world, at) => [
          tell(world, "events", "same", viewed),
          tell(world, "events", "same", viewed),
          tell(world, "orders", `orders ${at}`, turned(emails.map(order), at * 7)),
          tell(
            world,
            "contacts",
            `contacts ${at}`,
            turned(emails, at * 5).map((email) => ({ email, fields: { first_name: `N${at}` } })),
          ),
          tell(
            world,
            "unsubscribes",
            `out ${at}`,
            turned(emails, at * 3).map((email) => ({ email })),
          ),
          tell(world, "items", `items ${at}`, [{ id: "1", title: "Beans", stock: at }]),
        ]),
      );
      expect(said.filter(({ status }) => status !== 200)).toEqual([]);
      const [counts] = await dbs[0].query(
        `select (select count(*)::int from deeds) as deeds, (select count(*)::int from orders) as orders,
           (select count(*)::int from order_lines) as lines, (select count(*)::int from unsubscribes) as out,
           (select count(*)::int from contacts where status = 'unsubscribed') as ended,
           (select count(*)::int from sources) as sources, (select count(*)::int from items) as items`,
      );
      expect(counts).toEqual({ deeds: 20, orders: 20, lines: 20, out: 20, ended: 20, sources: 1, items: 1 });
    } finally {
      await Promise.all(dbs.map((db) => db.close()));
      await postgres.stop();
    }
  },
);

describe("the shop of the demo goes on", () => {
  const bought = async () =>
    (await rows<{ count: number }>("select count(*)::int as count from orders where number like 'W%'"))[0]
      .count;
  const seen = async () =>
    (await rows<{ count: number }>("select count(*)::int as count from deeds where what = 'viewed'"))[0]
      .count;
  let door: ReturnType<typeof doorAt>;
  let shopKey: string;
  beforeAll(async () => {
    shopKey = await makeKey(septima, { name: "Shop", may: ["orders", "events"], most: 6000 });
    door = doorAt(base.replace(/\/in$/, ""), shopKey);
    await addContacts(
      septima,
      Array.from({ length: 20 }, (_, at) => ({ email: `buyer${at}@post.example`, fields: {}, lists: [] })),
    );
    await septima.db.query(
      `update contacts set fields = fields || '{"last_order": "2026-01-01"}' where email like 'buyer%'`,
    );
  });

  test("as customers look and buy, each while others; told twice, also at once, it counts once", async () => {
    const before = await seen();
    await Promise.all([letShopWork(septima, door, 4), letShopWork(septima, door, 4)]);
    now += 1000;
    await letShopWork(septima, door, 4);
    expect([await bought(), (await seen()) - before]).toEqual([3, 10]);
    await letShopWork(septima, door, 5);
    expect([await bought(), (await seen()) - before]).toEqual([6, 22]);
    const who = await rows<{ turn: string; who: string }>(
      `select split_part(number, '-', 1) as turn, string_agg(c.email, ' ' order by c.email) as who
       from orders o join contacts c on c.id = o.contact_id where number like 'W%' group by 1 order by 1`,
    );
    expect(who[0].who).not.toBe(who[1].who);
  });

  test("by the hour, until its key is withdrawn, and says so", async () => {
    await keepShopKey(septima, shopKey);
    const said: string[] = [];
    const before = await bought();
    const shut = await letShopLive(septima, base.replace(/\/in$/, ""), (what) => said.push(what), 20);
    await vi.waitFor(async () => expect(await bought()).toBeGreaterThan(before), 10_000);
    const [{ id }] = (await doorKeys(septima)).filter(({ name }) => name === "Shop");
    await withdrawKey(septima, id);
    await vi.waitFor(() => expect(said[0]).toContain("The shop of the demo stops: There is no key"), 10_000);
    expect(said).toHaveLength(1);
    shut();
  });

  test("and never where there is no shop, or it is told not to", async () => {
    const shut = await letShopLive(septima, base, () => expect.unreachable(), 0);
    shut();
  });
});
