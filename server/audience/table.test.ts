/** The table of contacts in any part and order, and what counts whole audiences. */
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Rule } from "~/core/audience";
import { startCampaign } from "../campaigns/campaigns";
import { broadly, type Database, type Queries } from "../db/database";
import type { Septima } from "../septima";
import { addList, openWorld } from "../test-world";
import { audienceContext, saveSegment } from "./groups";
import { addEvents } from "./history";
import { countSelection, recipientsSql } from "./selection";
import { audienceCounts, knownCounts } from "./sizes";
import { type TableQuery, tableOrder, tableRows } from "./table";

let septima: Septima;
let close: () => Promise<void>;
const PEOPLE = 3000;
const OPENED = 2900;
const NEVER: Rule = { kind: "did", what: "opened", often: "atMost", times: 0 };

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "letter", "Letter");
  await septima.db.query(
    `insert into contacts (email, fields, status, created_at)
     select 'r' || n || '@mail.example', jsonb_strip_nulls(jsonb_build_object(
         'first_name', (array['Émile','émil','Eva','  eva','Zoë','zoe','Ömer','Ann', null])[1 + n % 9],
         'last_name', case when n % 4 = 0 then 'Calder ' || n % 50 end,
         'orders', case when n % 5 > 0 then n % 40 end, 'member', n % 2 = 0, 'zone', (array['cool','warm'])[1 + n % 2])),
       case when n % 10 = 0 then 'unsubscribed' when n % 10 = 1 then 'removed' else 'subscribed' end, now()
     from generate_series(1, $1::int) n`,
    [PEOPLE],
  );
  await septima.db.query(
    "insert into list_members (list_id, contact_id) select 'letter', id from contacts where id % 3 = 0",
  );
  await saveSegment(septima, { id: "never", name: "Never opened", rule: NEVER });
  const campaign = await startCampaign(septima, "Letter", "letter");
  const opened = Array.from({ length: OPENED }, (_, at) => at + 1);
  await addEvents(
    septima.db,
    opened.map((contact) => ({ what: "opened", contact, at: new Date(septima.now()), campaign })),
  );
  await septima.db.script("analyze contacts; analyze events");
});
afterAll(() => close());

const everyone = { kind: "everyone" as const, id: "" };
const asked = (part: Partial<TableQuery>): TableQuery => ({
  group: everyone,
  words: "",
  filter: null,
  sort: { by: "id", down: false },
  ...part,
});
/** As a process that knows nothing yet. */
const anew = () => ({ ...septima, cache: new Map() });

test("the first rows are those of the whole order, whatever they are sorted by and whoever is in it", async () => {
  const sorts = ["id", "name", "email", "status", "first_name", "last_name", "orders", "member", "zone"];
  const groups = [
    everyone,
    { kind: "list" as const, id: "letter" },
    { kind: "segment" as const, id: "never" },
    { kind: "standing" as const, id: "removed" },
  ];
  for (const by of sorts)
    for (const down of [false, true])
      for (const group of groups) {
        const query = asked({ group, sort: { by, down } });
        const order = await tableOrder(anew(), query);
        const first = await tableRows(anew(), query, 0, 100);
        const known = anew();
        await tableOrder(known, query);
        const what = `${by} ${down} ${group.kind}`;
        expect(
          first.rows.map(({ id }) => id),
          what,
        ).toEqual(order.slice(0, 100));
        expect(await tableRows(known, query, 0, 100), what).toEqual(first);
        expect(first.total, what).toBe(order.length);
      }
  const query = asked({ sort: { by: "name", down: true } });
  const order = await tableOrder(anew(), query);
  const later = await tableRows(anew(), query, 450, 100);
  expect(later.rows.map(({ id }) => id)).toEqual(order.slice(450, 550));
  expect(later.readers).toBe(PEOPLE * 0.8);
});

test("names are in order without regard to capitals, accents and spaces", async () => {
  const query = asked({ sort: { by: "first_name", down: false } });
  const { rows } = await tableRows(septima, query, 0, 500);
  const order = await tableOrder(septima, query);
  const all = await tableRows(septima, query, 0, order.length);
  const names = all.rows.map(({ fields }) => fields.first_name as string | undefined);
  const distinct = names.filter((name, at) => name !== names[at - 1]);
  const plain = (name?: string) => name?.trim().normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();
  expect([...new Set(distinct.map(plain))]).toEqual([
    "ann",
    "emil",
    "emile",
    "eva",
    "omer",
    "zoe",
    undefined,
  ]);
  expect(rows[0].fields.first_name).toBe("Ann");
});

/** A database that keeps the plans of what it was asked for within transactions. */
function explaining(db: Database, plans: string[]): Database {
  const watched = (tx: Queries): Queries => ({
    async query<T>(sql: string, params?: readonly unknown[]) {
      if (/contacts c/.test(sql)) {
        const rows = await tx.query<{ "QUERY PLAN": string }>(`explain ${sql}`, params);
        plans.push(rows.map((row) => row["QUERY PLAN"]).join("\n"));
      }
      return tx.query<T>(sql, params);
    },
  });
  return {
    ...db,
    query: (sql, params) => db.query(sql, params),
    transaction: (work) => db.transaction((tx) => work({ ...tx, ...watched(tx) })),
  };
}

test("who did something is looked up in a set, however small the database's usual allowance is", async () => {
  const plans: string[] = [];
  await septima.db.script("set work_mem = '64kB'; set hash_mem_multiplier = 1");
  try {
    const world = { ...anew(), db: explaining(septima.db, plans) };
    const one: Rule = { kind: "any", of: [NEVER, { kind: "field", field: "zone", op: "is", value: "warm" }] };
    await saveSegment(septima, { id: "some", name: "Some", rule: one });
    const group = { kind: "segment" as const, id: "some" };
    const selection = { include: [group], exclude: [{ kind: "segment" as const, id: "never" }] };
    await countSelection(world, selection);
    await tableRows(world, asked({ group }), 0, 10);
    const gathered = recipientsSql("none", selection, await audienceContext(septima));
    await broadly(world.db, (tx) =>
      tx.query(`select c.id from contacts c where ${gathered.sql} order by c.id`, gathered.params),
    );
  } finally {
    await septima.db.script("reset work_mem; reset hash_mem_multiplier");
  }
  const sets = plans.filter((plan) => plan.includes("events"));
  expect(sets).toHaveLength(3);
  for (const plan of sets) {
    expect(plan).toContain("hashed SubPlan");
    expect(plan).not.toMatch(/Materialize[\s\S]*events e/);
  }
});

test("what was counted last is known at once; every group is counted, those who are removed too", async () => {
  const world = anew();
  expect(knownCounts(world)).toBeNull();
  const counts = await audienceCounts(world);
  expect(knownCounts(world)).toBe(counts);
  const of = (condition: string) =>
    septima.db
      .query<{ n: number }>(`select count(*)::int as n from contacts c where ${condition}`)
      .then(([{ n }]) => n);
  expect(counts.everyone.readers).toBe(await of("status = 'subscribed'"));
  expect(counts.groups["list letter"]).toBe(await of("id % 3 = 0 and status <> 'removed'"));
  expect(counts.groups["segment never"]).toBe(await of(`id > ${OPENED} and status = 'subscribed'`));
  expect(counts.groups["standing removed"]).toBe(await of("status = 'removed'"));
});
