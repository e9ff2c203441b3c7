/** The predicate of a rule and its condition in SQL, on the embedded PostgreSQL and on a server. */
import path from "node:path";
import fc from "fast-check";
import { afterAll, describe, expect, test } from "vitest";
import { preparePeople, storePeople } from "~/server/audience/test-people";
import type { Database } from "~/server/db/database";
import { openEmbedded } from "~/server/db/embedded";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { type AudienceContext, predicate, type Rule, RuleSchema, toSql, withFacts } from ".";
import { anyContact, anyDay, anyRule, CAMPAIGNS, RECORD_FACTS, SEGMENTS } from "./arbitrary";

async function prepare(db: Database): Promise<void> {
  await migrate(db, path.join(process.cwd(), "server/db/migrations"));
  await preparePeople(db, ["letter", "club"], CAMPAIGNS);
}

async function matchedBySql(db: Database, rule: Rule, context: AudienceContext): Promise<number[]> {
  const { sql, params } = toSql(rule, context, 1);
  const rows = await db.query<{ id: number }>(
    `select id from contacts c where $1::boolean and ${sql} order by id`,
    [true, ...params],
  );
  return rows.map(({ id }) => id);
}

/** So many times so many contacts and so many rules: over ten thousand pairs. */
const RUNS = { times: 110, contacts: 12, rules: 8 };

async function agree(db: Database): Promise<void> {
  let pairs = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(anyContact, { minLength: RUNS.contacts, maxLength: RUNS.contacts }),
      fc.array(anyRule, { minLength: RUNS.rules, maxLength: RUNS.rules }),
      anyDay,
      async (people, rules, day) => {
        const context = { ...day, segments: SEGMENTS, records: RECORD_FACTS };
        await storePeople(db, people);
        const stored = people.map((person, index) => {
          const kept = JSON.parse(JSON.stringify(person)) as typeof person;
          return { ...kept, fields: withFacts(kept.fields, RECORD_FACTS), id: index + 1 };
        });
        for (const rule of rules) {
          expect(RuleSchema.parse(rule)).toEqual(rule);
          const meets = stored.filter(predicate(rule, context)).map(({ id }) => id);
          expect(await matchedBySql(db, rule, context)).toEqual(meets);
          pairs += stored.length;
        }
      },
    ),
    { numRuns: RUNS.times },
  );
  expect(pairs).toBeGreaterThanOrEqual(10_000);
}

describe("a predicate and its SQL condition agree on every contact", () => {
  const closing: (() => Promise<void>)[] = [];
  afterAll(async () => {
    for (const close of closing.reverse()) await close();
  });

  test("in the embedded PostgreSQL", async () => {
    const db = await openEmbedded();
    closing.push(() => db.close());
    await prepare(db);
    await agree(db);
    // Spring and summer are sixty-four numbers apart.
    const opened = (...campaigns: string[]) => ({
      email: "a@a.example",
      fields: {},
      lists: [],
      history: {
        events: campaigns.map((campaign) => ({ what: "opened" as const, at: 0, campaign })),
        orders: [],
      },
    });
    await storePeople(db, [
      opened("spring", "summer"),
      opened("spring", "spring"),
      opened("summer", "autumn", "summer"),
      opened("spring", "summer", "autumn"),
    ]);
    const context = { today: "2026-11-23", segments: SEGMENTS };
    const atLeast = (times: number) =>
      matchedBySql(db, { kind: "did", what: "opened", often: "atLeast", times }, context);
    expect(await atLeast(2)).toEqual([1, 3, 4]);
    expect(await atLeast(3)).toEqual([4]);
  }, 240_000);

  test.skipIf(serverPrograms() === null)(
    "on a PostgreSQL server",
    async () => {
      const server = await startServer();
      closing.push(() => server.stop());
      const db = openServer(server.url);
      closing.push(() => db.close());
      await prepare(db);
      await agree(db);
    },
    240_000,
  );
});

test("segments that refer to themselves or are gone, and unknown groups, are refused by both", () => {
  const circular = new Map<string, Rule>([
    ["a", { kind: "segment", segment: "b", in: true }],
    ["b", { kind: "all", of: [{ kind: "segment", segment: "a", in: false }] }],
  ]);
  const context = { today: "2026-11-23", segments: circular };
  const refused: [Rule, string][] = [
    [{ kind: "segment", segment: "a", in: true }, "refers to itself"],
    [{ kind: "segment", segment: "nowhere", in: true }, "no longer exists"],
    [{ kind: "standing", group: "nowhere", in: true }, "no standing group"],
  ];
  for (const [rule, why] of refused) {
    expect(() => predicate(rule, context)).toThrow(why);
    expect(() => toSql(rule, context)).toThrow(why);
  }
});
