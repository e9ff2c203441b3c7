/** Lists by rule in real sendings: what was sent before, what sells out meanwhile, how many get fewer. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Block } from "~/core/email";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { htmlAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { itemValues } from "./items";
import { pickedFor, pickNumbers } from "./picks";
import { addSource } from "./sources";

const BRANCHES = ["Quay", "Mill"];
let septima: Septima;
let close: () => Promise<void>;
let server: http.Server;
let source: string;
/** What the shop of this test says, line by line. */
let lines: string[] = [];

beforeAll(async () => {
  server = http.createServer((_request, response) =>
    response.end(["id,title,price,link,stock,branch", ...lines].join("\n")),
  );
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
    sold: false,
  };
  const lists = { asks: [ask, { ...ask, block: "c", count: 12 }], placed: [], campaign: "c" };
  const everybody = { include: [{ kind: "list" as const, id: "all" }], exclude: [] };
  // Thing 0 is sold out since the test before.
  expect(await pickNumbers(at(5), lists, everybody)).toEqual([
    { block: "b", readers: 6, none: 2, fewer: 2 },
    { block: "c", readers: 6, none: 6, fewer: 0 },
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
