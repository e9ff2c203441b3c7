/** Lists by rule in real sendings: what was sent before, what sells out meanwhile, how many get fewer. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import type { WayName } from "~/core/picking";
import { contactById } from "../audience/contacts";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { dispatchesOf, steerDispatch } from "../dispatch/dispatches";
import { htmlAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import { knock } from "../door/door";
import { makeKey } from "../door/keys";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { itemValues } from "./items";
import { pickedFor, pickNumbers } from "./picks";
import { addSource, refreshSource, setSource } from "./sources";

const BRANCHES = ["Quay", "Mill"];
let septima: Septima;
let close: () => Promise<void>;
let server: http.Server;
let source: string;
/** What the shop of this test says, line by line; or that it is away. */
let lines: string[] = [];
let away = false;

beforeAll(async () => {
  server = http.createServer((_request, response) => {
    if (away) response.statusCode = 503;
    response.end(["id,title,price,link,stock,branch", ...lines].join("\n"));
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const world = await openWorld();
  septima = { ...world.septima, config: { ...world.septima.config, standins: { goods: base } } };
  close = world.close;
  lines = goods();
  source = await addSource(septima, "standin://goods/goods.csv", "Goods");
  await addReaders(septima, "all", 6, (at) => ({ ...(at < 4 && { branch: BRANCHES[at % 2] }) }));
});
afterAll(async () => {
  server.close();
  await close();
});
beforeEach(() => {
  lines = goods();
  away = false;
});

/** Twelve things, of which each branch has half; the first cost least. */
const goods = (sold: readonly number[] = []) =>
  Array.from(
    { length: 12 },
    (_, at) =>
      `g${at},Thing ${at},${at + 1},https://shop.example/${at},${sold.includes(at) ? 0 : 5},${BRANCHES[at % 2]}`,
  );
const LIST = {
  ways: [{ id: "w", by: "cheapest" as const }],
  filter: { kind: "like" as const, field: "fact.branch", op: "shares" as const, reader: "branch" },
  count: 2,
};

/** A letter with a list by rule, ready to be sent. */
async function letterWith(...blocks: ((id: string) => Block)[]): Promise<string> {
  const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Things" }]);
  const next = structuredClone((await campaign(septima, id)).email);
  next.sections[0].rows[0].columns[0].blocks.push(...blocks.map((block, at) => block(`block${at}`)));
  await saveDesign(septima, id, next);
  return id;
}
const list =
  (more: object = {}) =>
  (id: string) =>
    ({ ...createBlock("picks", id), source, ...LIST, ...more }) as Block;
const byHand = (id: string) =>
  ({
    ...createBlock("items", id),
    items: [
      {
        id: "1",
        source,
        item: {
          id: "g4",
          title: "Thing 4",
          text: "",
          link: "https://shop.example/4",
          picture: null,
          date: null,
          category: [],
          tags: [],
          facts: {},
        },
      },
    ],
  }) as Block;

const at = (days: number): Septima => ({
  ...septima,
  now: () => Date.now() + days * 86_400_000,
  cache: new Map(),
});

async function sent(world: Septima, id: string): Promise<(reader: number) => Promise<string[]>> {
  const dispatch = await bookDispatch(world, id, { confirmed: 6, when: null });
  await runDispatch(world, dispatch);
  const people = await world.db.query<{ id: number }>("select id from contacts order by email");
  return async (reader) => {
    const html = await htmlAsSent(world, dispatch, people[reader].id);
    return [...html.matchAll(/>(Thing \d+)</g)].map(([, title]) => title);
  };
}

test("each reader gets what their branch has, who has none gets nothing, and what stands there by hand is not repeated", async () => {
  const got = await sent(septima, await letterWith(byHand, list()));
  expect(await got(0)).toEqual(["Thing 4", "Thing 0", "Thing 2"]);
  expect(await got(1)).toEqual(["Thing 4", "Thing 1", "Thing 3"]);
  expect(await got(5)).toEqual(["Thing 4"]);
});

test("what a reader got in the last campaigns is not picked again, be it by hand or by rule", async () => {
  const got = await sent(at(1), await letterWith(list({ unsent: 1 })));
  // Things 0 and 2 were picked before, and 4 stood there.
  expect(await got(0)).toEqual(["Thing 6", "Thing 8"]);
  const next = await sent(at(2), await letterWith(list({ unsent: 1 })));
  expect(await next(0)).toEqual(["Thing 0", "Thing 2"]);
  const both = await sent(at(3), await letterWith(list({ unsent: 3, count: 4 })));
  expect(await both(0)).toEqual(["Thing 10"]);
});

test("what sells out between booking and sending is left out, and the next takes its place", async () => {
  const id = await letterWith(list());
  const world = at(4);
  const dispatch = await bookDispatch(world, id, { confirmed: 6, when: null });
  lines = goods([0]);
  await runDispatch(world, dispatch);
  const [{ id: reader }] = await world.db.query<{ id: number }>(
    "select id from contacts order by email limit 1",
  );
  const html = await htmlAsSent(world, dispatch, reader);
  expect([...html.matchAll(/>(Thing \d+)</g)].map(([, title]) => title)).toEqual(["Thing 2", "Thing 4"]);
});

test("how many readers get fewer than asked, or none, is counted; and what items have in a fact", async () => {
  const ask = {
    block: "b",
    source,
    ways: [{ by: "cheapest" as const }],
    filter: LIST.filter,
    count: 6,
    apart: true,
    unsent: 0,
    unbought: 0,
    sold: false,
  };
  const lists = { asks: [ask, { ...ask, block: "c", count: 12 }], placed: [], campaign: "c" };
  const everybody = { include: [{ kind: "list" as const, id: "all" }], exclude: [] };
  // Thing 0 is sold out since the test before.
  expect(await pickNumbers(at(5), lists, everybody)).toEqual([
    { block: "b", asked: 6, readers: 6, none: 2, fewer: 2 },
    { block: "c", asked: 12, readers: 6, none: 6, fewer: 0 },
  ]);
  const [{ id }] = await septima.db.query<{ id: number }>("select id from contacts order by email limit 1");
  const reader = { id, email: "", fields: { branch: "quay" }, lists: [] };
  const [first] = await pickedFor(at(5), lists, reader);
  expect(first.items.map(({ id: item }) => item)).toEqual(["g2", "g4", "g6", "g8", "g10"]);
  expect(await itemValues(septima, source, "fact.branch")).toEqual([
    { value: "Mill", count: 6 },
    { value: "Quay", count: 6 },
  ]);
  expect(await itemValues(septima, source, "category")).toEqual([]);
});

test("what was bought and looked at leads to items, with the reason; what is gone or bought lately does not", async () => {
  const world = at(6);
  const key = await makeKey(world, { name: "The shop", may: ["orders", "events"], most: 6000 });
  const say = async (what: string, entries: unknown[]) =>
    expect(await knock(world, what, `Bearer ${key}`, JSON.stringify({ batch: what, entries }))).toMatchObject(
      {
        status: 200,
        body: { left: [] },
      },
    );
  const day = (ago: number) => new Date(world.now() - ago * 86_400_000).toISOString();
  const order = (number: string, who: number, ago: number, ...items: string[]) => ({
    number,
    email: `reader${who}@mail.example`,
    at: day(ago),
    currency: "EUR",
    lines: items.map((item) => ({ item, name: `Thing ${item.slice(1)}`, quantity: 1, price: 1 })),
  });
  await say("orders", [
    order("1", 1, 50, "g5", "g7"),
    order("2", 2, 40, "g5", "g7"),
    order("3", 3, 30, "g5", "g7"),
    order("4", 1, 20, "g9"),
    order("5", 0, 10, "g5"),
    order("6", 4, 500, "g11"),
  ]);
  await say("events", [{ email: "reader0@mail.example", what: "viewed", item: "g2", at: day(3) }]);
  const ask = (...ways: { by: WayName; field?: string }[]) => ({
    block: "b",
    source,
    ways,
    count: 3,
    apart: true,
    unsent: 0,
    unbought: 30,
    sold: false,
  });
  const [{ id }] = await world.db.query<{ id: number }>(
    "select id from contacts where email = 'reader0@mail.example'",
  );
  const reader = await contactById(world, id);
  const given = async (...ways: { by: WayName; field?: string }[]) => {
    const [list] = await pickedFor(world, { asks: [ask(...ways)], placed: [], campaign: "c" }, reader);
    return list.items.map((item, index) => [item.id, list.because[index]]);
  };
  const said = (ago: number) =>
    new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", timeZone: "UTC" }).format(
      new Date(day(ago)),
    );
  expect(await given({ by: "goesWith" })).toEqual([["g7", `because Thing 5 was bought on ${said(10)}`]]);
  expect(await given({ by: "seen" })).toEqual([["g2", `looked at on ${said(3)} and not bought`]]);
  // What they bought themselves of late is not popular for them, and what nobody bought lately is not at all.
  expect((await given({ by: "popular" })).map(([item]) => item)).toEqual(["g7", "g9"]);
  expect((await given({ by: "near", field: "branch" })).map(([, why]) => why)).toEqual([
    "popular in Quay in the last 90 days",
  ]);
  // Thing 0 was sold out, and is there again.
  lines = goods();
  await refreshSource(world, source);
  expect(await given({ by: "back" })).toEqual([["g0", `back in stock since ${said(0)}`]]);
  lines = goods().map((line) => line.replace(",Thing 3,4,", ",Thing 3,2,"));
  await refreshSource(world, source);
  expect(await given({ by: "dropped" })).toEqual([["g3", `price dropped on ${said(0)}`]]);
});

test("a source that cannot be read stops a sending, or lets it go with the last good copy, as was chosen", async () => {
  const name = "Goods";
  const trySend = async (stopsAfter: number | null, days: number) => {
    const world = at(days);
    await setSource(world, source, { name, every: 60, stopsAfter });
    const id = await letterWith(list());
    const dispatch = await bookDispatch(world, id, { confirmed: 6, when: null });
    away = true;
    await runDispatch(world, dispatch);
    const [{ state, trouble }] = await dispatchesOf(world, id);
    return { state, trouble, world, dispatch };
  };
  expect(await trySend(null, 8.1)).toMatchObject({ state: "sent", trouble: null });
  away = false;
  await refreshSource(at(8.2), source);
  const stopped = await trySend(0, 8.2);
  expect(stopped).toMatchObject({ state: "paused" });
  expect(stopped.trouble).toContain(
    "“Goods” cannot be read, and its last good copy is less than an hour old",
  );
  expect(stopped.trouble).toContain("Nobody got anything yet");
  // A copy that is young enough does.
  await setSource(stopped.world, source, { name, every: 60, stopsAfter: 24 });
  await steerDispatch(stopped.world, stopped.dispatch, "sending");
  await runDispatch(stopped.world, stopped.dispatch);
  expect(
    (await stopped.world.db.query("select state from dispatches where id = $1", [stopped.dispatch]))[0],
  ).toEqual({
    state: "sent",
  });
  // It is known to be away: nothing is booked in the first place.
  await expect(trySend(24, 10.1)).rejects.toThrow("its last good copy is 45 hours old");
  away = false;
  await refreshSource(at(10.2), source);
  await setSource(at(10.2), source, { name, every: 60, stopsAfter: null });
});
