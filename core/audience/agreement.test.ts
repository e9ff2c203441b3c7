import path from "node:path";
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Database } from "~/server/db/database";
import { openEmbedded } from "~/server/db/embedded";
import { migrate } from "~/server/db/migrate";
import { type AudienceContext, type Contact, predicate, type Rule, RuleSchema, toSql } from ".";
import { anyContact, anyRule, SEGMENTS } from "./arbitrary";

let db: Database;

beforeAll(async () => {
  db = await openEmbedded();
  await migrate(db, path.join(process.cwd(), "server/db/migrations"));
  await db.query(
    "insert into lists (id, name, created_at) values ('letter', 'Letter', now()), ('club', 'Club', now())",
  );
});
afterAll(() => db.close());

async function matchedBySql(
  people: readonly Omit<Contact, "id">[],
  condition: Rule,
  context: AudienceContext,
): Promise<number[]> {
  await db.query("delete from contacts");
  await db.query("drop index if exists contacts_email");
  await db.query(
    "insert into contacts (id, email, fields, created_at) select ordinality, it ->> 'email', it -> 'fields', now() from jsonb_array_elements($1::jsonb) with ordinality as t(it, ordinality)",
    [JSON.stringify(people)],
  );
  await db.query(
    "insert into list_members (list_id, contact_id) select l, ordinality from jsonb_array_elements($1::jsonb) with ordinality as t(it, ordinality), jsonb_array_elements_text(it -> 'lists') l",
    [JSON.stringify(people)],
  );
  const { sql, params } = toSql(condition, context, 1);
  const rows = await db.query<{ id: number }>(
    `select id from contacts c where $1::boolean and ${sql} order by id`,
    [true, ...params],
  );
  return rows.map((row) => row.id);
}

test("a predicate and its SQL condition agree on every contact", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(anyContact, { minLength: 1, maxLength: 8 }),
      anyRule,
      fc.constantFrom("2026-11-23", "2024-02-28", "2023-02-28", "2025-12-31"),
      async (people, condition, today) => {
        const context = { today, segments: SEGMENTS };
        expect(RuleSchema.parse(condition)).toEqual(condition);
        const test = predicate(condition, context);
        const stored = people.map((person, index) => ({
          ...(JSON.parse(JSON.stringify(person)) as typeof person),
          id: index + 1,
        }));
        const byPredicate = stored.filter(test).map((contact) => contact.id);
        expect(await matchedBySql(people, condition, context)).toEqual(byPredicate);
      },
    ),
    { numRuns: 300 },
  );
}, 120_000);

test("segments that refer to themselves or are gone are refused by both", () => {
  const circular = new Map<string, Rule>([
    ["a", { kind: "segment", segment: "b", in: true }],
    ["b", { kind: "all", of: [{ kind: "segment", segment: "a", in: false }] }],
  ]);
  const context = { today: "2026-11-23", segments: circular };
  const start: Rule = { kind: "segment", segment: "a", in: true };
  expect(() => predicate(start, context)).toThrow("refers to itself");
  expect(() => toSql(start, context)).toThrow("refers to itself");
  const gone: Rule = { kind: "segment", segment: "nowhere", in: true };
  expect(() => predicate(gone, context)).toThrow("no longer exists");
  expect(() => toSql(gone, context)).toThrow("no longer exists");
});
