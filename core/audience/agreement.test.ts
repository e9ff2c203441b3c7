import path from "node:path";
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Database } from "~/server/db/database";
import { openEmbedded } from "~/server/db/embedded";
import { migrate } from "~/server/db/migrate";
import { type AudienceContext, type Contact, predicate, type Rule, RuleSchema, toSql } from ".";

let db: Database;

const TEXT_FIELDS = ["first_name", "branch", "odd key ' \" {}"];
const FIELDS = [...TEXT_FIELDS, "orders", "joined", "member", "interests", "email"];

const safeText = fc
  .oneof(
    fc.constantFrom(
      "",
      " ",
      "Alderwick",
      "ALDERWICK",
      "alderwick",
      "Élodie",
      "éLODIE",
      "ß",
      "İ",
      "ı",
      "Σίσυφος",
      "%",
      "_",
      "\\",
      "'",
      "null",
      "true",
      "🌱",
      "e\u0301",
    ),
    fc.string({ unit: "grapheme", maxLength: 6 }),
  )
  .filter((text) => !text.includes("\u0000") && text.isWellFormed());
const dates = fc.constantFrom(
  "2024-02-29",
  "2023-02-28",
  "2023-03-01",
  "2026-11-23",
  "2026-11-22",
  "2025-12-31",
  "2026-01-01",
  "1988-02-29",
  "2023-02-31",
  "0001-01-01",
  "9999-12-31",
);
const numbers = fc.oneof(
  fc.integer({ min: -3, max: 3 }),
  fc.double({ noNaN: true, noDefaultInfinity: true }).map((it) => (Object.is(it, -0) ? 0 : it)),
);
const values = fc.oneof(
  safeText,
  dates,
  numbers,
  fc.boolean(),
  fc.constant(null),
  fc.array(safeText, { maxLength: 3 }),
  fc.constant({}),
  fc.constant([1, null]),
);
const contacts = fc.record({
  email: fc.oneof(safeText, fc.constantFrom("ines@mail.example", "INES@MAIL.EXAMPLE")),
  fields: fc.dictionary(fc.constantFrom(...FIELDS.filter((key) => key !== "email")), values),
  lists: fc.subarray(["letter", "club"]),
});

const field = fc.constantFrom(...FIELDS);
const leaf: fc.Arbitrary<Rule> = fc.oneof(
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constantFrom(
      "is" as const,
      "isNot" as const,
      "contains" as const,
      "startsWith" as const,
      "includes" as const,
      "includesNot" as const,
    ),
    value: safeText,
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constant("anyOf" as const),
    value: fc.array(safeText, { maxLength: 3 }),
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constantFrom("equals" as const, "atLeast" as const, "atMost" as const),
    value: numbers,
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constantFrom("onOrAfter" as const, "onOrBefore" as const),
    value: dates,
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constantFrom("withinLast" as const, "withinNext" as const, "anniversaryWithin" as const),
    value: fc.integer({ min: 0, max: 366 }),
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field,
    op: fc.constantFrom("yes" as const, "no" as const, "known" as const, "unknown" as const),
  }),
  fc.record({
    kind: fc.constant("list" as const),
    list: fc.constantFrom("letter", "club", "gone"),
    in: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant("segment" as const),
    segment: fc.constantFrom("cool", "nested"),
    in: fc.boolean(),
  }),
);
const { rule } = fc.letrec<{ rule: Rule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.record({
      kind: fc.constantFrom("all" as const, "any" as const, "none" as const),
      of: fc.array(tie("rule"), { maxLength: 3 }),
    }),
  ),
}));

const segments = new Map<string, Rule>([
  ["cool", { kind: "field", field: "branch", op: "is", value: "Alderwick" }],
  [
    "nested",
    {
      kind: "none",
      of: [
        { kind: "segment", segment: "cool", in: true },
        { kind: "field", field: "member", op: "yes" },
      ],
    },
  ],
]);

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
      fc.array(contacts, { minLength: 1, maxLength: 8 }),
      rule,
      fc.constantFrom("2026-11-23", "2024-02-28", "2023-02-28", "2025-12-31"),
      async (people, condition, today) => {
        const context = { today, segments };
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
