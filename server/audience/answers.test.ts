/** What an audience answers in SQL, against what each contact answers by itself. */
import fc from "fast-check";
import { afterAll, beforeAll, expect, test } from "vitest";
import { type Contact, lacksField, predicate, type Rule } from "~/core/audience";
import {
  anyContact,
  anyDay,
  anyRule,
  CAMPAIGNS,
  FIELDS,
  RECORD_FACTS,
  SEGMENTS,
  SHOP_FIELD,
} from "~/core/audience/arbitrary";
import { createBlock } from "~/core/blocks";
import type { Email } from "~/core/email";
import { editions, previewAddresses, readerOf, readerValue } from "~/core/personal";
import { boundEmail, editionsOf, whoReads } from "../campaigns/rendering";
import type { Septima } from "../septima";
import { everybody, openWorld } from "../test-world";
import { type Ask, askAudience, audienceChanged, audienceNow, valuesIn } from "./answers";
import { addContacts, contactsById } from "./contacts";
import { countRule } from "./counting";
import { recordFacts, setFields } from "./fields";
import { saveRecords, saveTable } from "./records";
import type { Selection } from "./selection";
import { type Person, preparePeople, storePeople } from "./test-people";

/** The fields, and facts of what one of them points to. */
const ASKED = [...FIELDS, "shop.name", "shop.floors"];

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  const world = await openWorld();
  ({ septima, close } = world);
  await preparePeople(septima.db, ["letter", "club"], CAMPAIGNS);
  await saveTable(septima, {
    id: "shops",
    name: "Shops",
    facts: [
      { key: "floors", label: "Floors", kind: "number" },
      { key: "opened", label: "Opened", kind: "date" },
    ],
  });
  const records = [...RECORD_FACTS.get("shop")!].map(([id, facts]) => ({
    id,
    name: String(facts["shop.name"]),
    facts: { floors: facts["shop.floors"], opened: facts["shop.opened"] },
  }));
  await saveRecords(septima, "shops", records);
  await setFields(septima, [SHOP_FIELD]);
});
afterAll(() => close());

/** Puts these and nobody else into the audience, with gaps between their numbers. */
async function settle(people: readonly Person[]): Promise<Contact[]> {
  await storePeople(septima.db, people, 700);
  audienceChanged(septima);
  const ids = (await everybody(septima)).map(({ id }) => id);
  return [...(await contactsById(septima, ids)).values()];
}

test("what stands behind fields that point to records is what the workspace keeps of them", async () => {
  expect(await recordFacts(septima)).toEqual(RECORD_FACTS);
});

test("rules, what is lacking, what tags write and languages are answered as each contact would", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(anyContact, { minLength: 1, maxLength: 12 }),
      fc.array(anyRule, { maxLength: 6 }),
      anyDay,
      async (people, rules, day) => {
        const contacts = await settle(people);
        const context = { ...day, segments: SEGMENTS, records: RECORD_FACTS };
        const asks = ASKED.flatMap((field): Ask[] => [
          { kind: "writes", field },
          { kind: "lacks", field },
        ]);
        const { everyone, yes, meets } = await askAudience(septima, context, rules, asks);
        const who = (test: (contact: Contact) => boolean) => contacts.filter(test).map(({ id }) => id);
        expect([...everyone]).toEqual(who(() => true));
        for (const rule of rules) {
          expect([...meets(rule)]).toEqual(who(predicate(rule, context)));
          // By itself, anew: a few tests are asked in the database.
          audienceChanged(septima);
          const alone = await askAudience(septima, context, [rule]);
          expect([...alone.meets(rule)]).toEqual(who(predicate(rule, context)));
        }
        for (const field of ASKED) {
          const reader = (contact: Contact) => readerOf(contact, "en", previewAddresses(""));
          expect([field, ...yes({ kind: "writes", field })]).toEqual([
            field,
            ...who((contact) => readerValue(field, { format: "asIs" }, reader(contact)) !== null),
          ]);
          expect([field, ...yes({ kind: "lacks", field })]).toEqual([
            field,
            ...who((contact) => lacksField(contact, field)),
          ]);
        }
      },
    ),
    { numRuns: 70 },
  );
}, 120_000);

/** A letter with rules, tags with and without a fallback, and a date, which is written by language. */
function letter(rules: readonly Rule[]): Email {
  const tag = (field: string, format: string) => ({
    type: "mergeTag",
    attrs: { field, fallback: "you", format },
  });
  const words = (...content: unknown[]) => ({ type: "doc", content: [{ type: "paragraph", content }] });
  const blocks = rules.map((show, at) => ({
    ...createBlock("text", `b${at}`),
    content: words(tag(ASKED[at % ASKED.length], "asIs"), tag("joined", "longDate")),
    show,
  }));
  return {
    schema: 1,
    language: "en",
    theme: "plain",
    envelope: {
      subject: [tag("first_name", "asIs")],
      preheader: [],
      sender: { name: [], address: "a@a.example" },
    },
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  } as unknown as Email;
}

test("the editions of an audience are those of its contacts one by one", async () => {
  const speaking = fc
    .tuple(anyContact, fc.constantFrom("en", "fr", "de", "", 5, null))
    .map(([contact, language]) => ({
      ...contact,
      fields: { ...contact.fields, language },
    }));
  await fc.assert(
    fc.asyncProperty(
      fc.array(speaking, { minLength: 1, maxLength: 25 }),
      fc.array(anyRule, { minLength: 1, maxLength: 5 }),
      async (people, rules) => {
        const contacts = await settle(people);
        septima.cache.set(
          "audience context",
          Promise.resolve({ zone: "UTC", segments: SEGMENTS, records: RECORD_FACTS }),
        );
        const email = letter(rules);
        const found = await editionsOf(septima, email, { include: [], exclude: [] });
        expect(found).toEqual({
          editions: editions(await boundEmail(septima, email), contacts),
          readers: contacts.length,
        });
      },
    ),
    { numRuns: 40 },
  );
}, 120_000);

test("what was answered is not asked again until the audience changes; of many, none is left out", async () => {
  await settle([]);
  const people = Array.from({ length: 9000 }, (_, n) => ({
    email: `r${n}@r.example`,
    fields: { zone: n % 3 === 0 ? "cool" : "mild", ...(n % 2 === 0 && { first_name: "Ines" }) },
    lists: [],
  }));
  await addContacts(septima, people);
  const statements: string[] = [];
  const counting: Septima = {
    ...septima,
    db: {
      ...septima.db,
      query: (sql, params) => {
        statements.push(sql);
        return septima.db.query(sql, params);
      },
    },
  };
  const cool = { kind: "field", field: "zone", op: "is", value: "cool" } as const;
  expect((await countRule(counting, cool)).count).toBe(3000);
  const asked = statements.filter((sql) => sql.includes("string_agg(")).length;
  expect(asked).toBeGreaterThan(1);
  expect((await countRule(counting, cool)).count).toBe(3000);
  expect((await countRule(counting, { kind: "none", of: [cool] })).count).toBe(6000);
  expect(statements.filter((sql) => sql.includes("string_agg("))).toHaveLength(asked);
  const { size, lacking } = await whoReads(septima, letter([cool]), { include: [], exclude: [] }, [
    { key: "first_name" },
  ]);
  expect({ size, lacking }).toEqual({ size: 9000, lacking: { first_name: 4500 } });
  const before = await audienceNow(septima);
  await addContacts(septima, [{ email: "new@r.example", fields: { zone: "cool" } }]);
  expect(await audienceNow(septima)).not.toBe(before);
  expect((await countRule(counting, cool)).count).toBe(3001);
});

test("of a campaign's readers a rule and each of its lines count those alone", async () => {
  await settle([]);
  const people = Array.from({ length: 12 }, (_, n) => ({
    email: `c${n}@c.example`,
    fields: { zone: n % 2 === 0 ? "cool" : "mild", ...(n % 3 === 0 && { first_name: `Ines ${n}` }) },
    lists: n < 6 ? ["club"] : [],
  }));
  await addContacts(septima, people);
  const cool: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
  const both: Rule = { kind: "all", of: [cool, { kind: "field", field: "first_name", op: "known" }] };
  const club = { include: [{ kind: "list" as const, id: "club" }], exclude: [] };
  const counted = async (rule: Rule, among?: Selection) => {
    const { count, names, parts, sample } = await countRule(septima, rule, among);
    return { count, names, first: sample?.email, left: Object.values(parts).map(({ left }) => left) };
  };
  expect(await counted(both)).toEqual({
    count: 2,
    names: ["Ines 0", "Ines 6"],
    first: "c0@c.example",
    left: [6, 2],
  });
  expect(await counted(both, club)).toEqual({
    count: 1,
    names: ["Ines 0"],
    first: "c0@c.example",
    left: [3, 1],
  });
  const others = { include: [{ kind: "everyone" as const, id: "" }], exclude: club.include };
  expect(await counted(both, others)).toMatchObject({ count: 1, names: ["Ines 6"], left: [3, 1] });
  // Everybody else is the rest of the same readers.
  expect((await counted({ kind: "none", of: [both] }, club)).count).toBe(5);
  expect((await counted(both, { include: [], exclude: [] })).count).toBe(2);
});

test("where a day begins at another hour, what was done since then is asked again", async () => {
  const [reader] = await settle([
    {
      email: "a@a.example",
      fields: {},
      lists: [],
      history: {
        events: [{ what: "opened", at: Date.parse("2026-11-22T20:00:00Z"), campaign: CAMPAIGNS[0] }],
        orders: [],
      },
    },
  ]);
  const opened: Rule = { kind: "did", what: "opened", often: "atLeast", times: 1, within: 1 };
  const who = async (zone?: string) => {
    const context = { today: "2026-11-24", zone, segments: new Map<string, Rule>() };
    return [...(await askAudience(septima, context, [opened])).meets(opened)];
  };
  expect(await who()).toEqual([]);
  // There, the day before began at ten in the morning (UTC) of the day before that.
  expect(await who("Pacific/Kiritimati")).toEqual([reader.id]);
  expect(await who()).toEqual([]);
});

test("a field with more different values than a column holds is answered all the same", async () => {
  await settle([]);
  await septima.db.query(
    `insert into contacts (id, email, fields, created_at)
     select n, 'r' || n || '@mail.example', jsonb_build_object('code', 'c' || n, 'zone', 'z' || n % 3), now()
     from generate_series(1, 60000) n`,
  );
  audienceChanged(septima);
  const code = (op: "is" | "isNot" | "startsWith", value: string): Rule => ({
    kind: "field",
    field: "code",
    op,
    value,
  });
  const count = async (rule: Rule) => (await countRule(septima, rule)).count;
  // The first of these finds out, within the first fifty thousand and after them; the second knows.
  expect(await count({ kind: "any", of: [code("is", "c7"), code("is", "c59999")] })).toBe(2);
  expect(await count({ kind: "all", of: [code("startsWith", "c5"), code("isNot", "c5")] })).toBe(11_110);
  expect(await count({ kind: "field", field: "email", op: "contains", value: "r6000" })).toBe(2);
  expect(await valuesIn(septima, "code")).toBeNull();
  expect((await valuesIn(septima, "zone"))?.sort()).toEqual([
    ["z0", 20_000],
    ["z1", 20_000],
    ["z2", 20_000],
  ]);
}, 180_000);

test("who asks about a field that is being read waits for it, and reads it no second time", async () => {
  await settle([
    { email: "a@a.example", fields: { zone: "warm" }, lists: [] },
    { email: "b@a.example", fields: { zone: "cool" }, lists: [] },
  ]);
  let read = 0;
  const { db } = septima;
  const watched: Septima = {
    ...septima,
    db: {
      ...db,
      query: (sql, params) => {
        if (sql.includes("string_agg")) read += 1;
        return db.query(sql, params);
      },
    },
  };
  const warm: Rule = { kind: "field", field: "zone", op: "is", value: "warm" };
  const [counted, values, again] = await Promise.all([
    countRule(watched, warm),
    valuesIn(watched, "zone"),
    countRule(watched, { ...warm, value: "cool" } as Rule),
  ]);
  expect([counted.count, values?.length, again.count]).toEqual([1, 2, 1]);
  const before = read;
  expect((await countRule(watched, { ...warm, value: "mild" } as Rule)).count).toBe(0);
  expect(read).toBe(before);
  audienceChanged(septima);
  await countRule(watched, warm);
  expect(read).toBe(2 * before);
});
