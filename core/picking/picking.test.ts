import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Contact } from "../audience";
import { type Item, itemOf } from "../items";
import {
  describeItemRule,
  type ItemRule,
  ItemRuleSchema,
  itemFields,
  itemKey,
  type ListAsk,
  pickLists,
  readerFields,
  type WayName,
} from ".";

const WORDS = ["North", "south", "EAST", "é"] as const;
const word = fc.constantFrom(...WORDS);
const day = fc.constantFrom("2026-11-01", "2026-11-30", "2027-02-01");

/** Few values, so that many are alike. */
const items: fc.Arbitrary<Item[]> = fc
  .array(
    fc.record({
      title: fc.constantFrom("Bean", "bean", "Carrot", "Ångström", ""),
      price: fc.option(fc.constantFrom(1, 2, 3), { nil: undefined }),
      sale: fc.option(fc.constantFrom(1, 2), { nil: undefined }),
      stock: fc.option(fc.constantFrom(0, 1, 5), { nil: undefined }),
      date: fc.option(day, { nil: null }),
      category: fc.array(word, { maxLength: 2 }),
      branch: fc.option(word, { nil: undefined }),
      size: fc.option(fc.constantFrom(36, 38, 40), { nil: undefined }),
    }),
    { maxLength: 70 },
  )
  .map((all) =>
    all.map(({ branch, size, ...item }, at) =>
      itemOf({
        id: `i${at}`,
        ...JSON.parse(JSON.stringify(item)),
        date: item.date ?? null,
        facts: { ...(branch && { branch }), ...(size && { size }) },
      }),
    ),
  );

const tests: fc.Arbitrary<ItemRule> = fc.oneof(
  fc.record({
    kind: fc.constant("field" as const),
    field: fc.constant("fact.branch"),
    op: fc.constantFrom("is" as const, "isNot" as const),
    value: word,
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field: fc.constant("price"),
    op: fc.constantFrom("atLeast" as const, "atMost" as const),
    value: fc.constantFrom(1, 2),
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field: fc.constant("category"),
    op: fc.constant("includes" as const),
    value: word,
  }),
  fc.record({
    kind: fc.constant("field" as const),
    field: fc.constant("date"),
    op: fc.constant("withinLast" as const),
    value: fc.constant(10),
  }),
  fc.record({
    kind: fc.constant("like" as const),
    field: fc.constantFrom("fact.branch", "category"),
    op: fc.constantFrom("shares" as const, "sharesNot" as const),
    reader: fc.constantFrom("branch", "interests"),
  }),
  fc.record({
    kind: fc.constant("like" as const),
    field: fc.constant("fact.size"),
    op: fc.constantFrom("atLeast" as const, "atMost" as const),
    reader: fc.constant("size"),
  }),
);
const rule: fc.Arbitrary<ItemRule> = fc.letrec<{ rule: ItemRule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 2 },
    tests,
    fc.record({
      kind: fc.constantFrom("all" as const, "any" as const, "none" as const),
      of: fc.array(tie("rule"), { maxLength: 3 }),
    }),
  ),
})).rule;

const readers: fc.Arbitrary<Contact[]> = fc
  .array(
    fc.record({
      branch: fc.option(word, { nil: undefined }),
      interests: fc.option(fc.array(word, { maxLength: 3 }), { nil: undefined }),
      size: fc.option(fc.constantFrom<unknown>(36, 38, "38"), { nil: undefined }),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((all) => all.map((fields, id) => ({ id, email: `r${id}@mail.example`, fields, lists: [] })));

const ORDERED: readonly WayName[] = ["newest", "soonest", "cheapest", "saving", "name", "given"];
const ask: fc.Arbitrary<Omit<ListAsk, "block">> = fc.record(
  {
    source: fc.constantFrom("a", "b"),
    ways: fc.array(fc.record({ by: fc.constantFrom(...ORDERED), filter: rule }, { requiredKeys: ["by"] }), {
      minLength: 1,
      maxLength: 3,
    }),
    filter: rule,
    count: fc.integer({ min: 1, max: 6 }),
    apart: fc.boolean(),
    unsent: fc.constantFrom(0, 1, 2),
    unbought: fc.constant(0),
    sold: fc.boolean(),
  },
  { requiredKeys: ["source", "ways", "count", "apart", "unsent", "unbought", "sold"] },
);

const TODAY = "2026-12-01";
const low = (text: string) => text.toLowerCase();
const listOf = (value: unknown): string[] =>
  (Array.isArray(value) ? value : [value]).filter((one) => typeof one === "string" && one !== "").map(low);

/** Whether an item is meant, as one would say it. */
function obvious(rule: ItemRule, item: Item, reader: Contact): boolean {
  if ("of" in rule) {
    const met = rule.of.filter((part) => obvious(part, item, reader)).length;
    return rule.kind === "all" ? met === rule.of.length : rule.kind === "any" ? met > 0 : met === 0;
  }
  const facts: Record<string, unknown> = {
    "fact.branch": item.facts.branch,
    "fact.size": item.facts.size,
    category: item.category,
    price: item.sale ?? item.price,
    date: item.date,
  };
  const value = facts[rule.field];
  if (rule.kind === "like") {
    const own = reader.fields[rule.reader];
    if (rule.op === "shares" || rule.op === "sharesNot") {
      const both = listOf(value).filter((one) => listOf(own).includes(one));
      return both.length > 0 === (rule.op === "shares");
    }
    if (typeof value !== "number" || typeof own !== "number") return false;
    return rule.op === "atLeast" ? value >= own : value <= own;
  }
  switch (rule.op) {
    case "is":
      return typeof value === "string" && low(value) === low(rule.value);
    case "isNot":
      return !(typeof value === "string" && low(value) === low(rule.value));
    case "atLeast":
      return typeof value === "number" && value >= rule.value;
    case "atMost":
      return typeof value === "number" && value <= rule.value;
    case "includes":
      return (value as string[]).includes(rule.value);
    default:
      return typeof value === "string" && value >= "2026-11-21" && value <= TODAY;
  }
}

const num = (value: number | undefined, missing: number) => value ?? missing;
const SORTS: Record<string, (one: Item, other: Item) => number> = {
  newest: (one, other) => (one.date === other.date ? 0 : (one.date ?? "") > (other.date ?? "") ? -1 : 1),
  soonest: (one, other) => (one.date === other.date ? 0 : (one.date ?? "9") < (other.date ?? "9") ? -1 : 1),
  cheapest: (one, other) => num(one.sale ?? one.price, 99) - num(other.sale ?? other.price, 99),
  saving: (one, other) => cut(other) - cut(one),
  name: (one, other) => one.title.localeCompare(other.title, "en"),
  given: () => 0,
};
const cut = ({ price, sale }: Item) => (price && sale !== undefined && sale < price ? 1 - sale / price : 0);

/** What a reader gets of all lists, slowly. */
function slowly(
  asks: readonly ListAsk[],
  sources: Record<string, Item[]>,
  placed: ReadonlySet<string>,
  had: (reader: Contact, campaigns: number) => ReadonlySet<string>,
  reader: Contact,
): { id: string; way: number }[][] {
  const above = new Set<string>();
  return asks.map((one) => {
    const got: { id: string; way: number }[] = [];
    for (const [way, { by, filter }] of one.ways.entries()) {
      const sorted = [...sources[one.source]].sort(SORTS[by]);
      for (const item of sorted) {
        const key = itemKey(one.source, item.id);
        const fits =
          !(by === "soonest" && item.date && item.date.slice(0, 10) < TODAY) &&
          (one.sold || item.stock !== 0) &&
          (!one.filter || obvious(one.filter, item, reader)) &&
          (!filter || obvious(filter, item, reader)) &&
          !(one.apart && (above.has(key) || placed.has(key))) &&
          !(one.unsent > 0 && had(reader, one.unsent).has(key)) &&
          !got.some(({ id }) => id === item.id);
        if (fits && got.length < one.count) got.push({ id: item.id, way });
      }
    }
    for (const { id } of got) above.add(itemKey(one.source, id));
    return got;
  });
}

test("every reader gets what a slow search through all items finds, whatever is asked", () => {
  fc.assert(
    fc.property(items, items, fc.array(ask, { minLength: 1, maxLength: 3 }), readers, (a, b, asked, all) => {
      const asks = asked.map((one, at): ListAsk => ({ block: `b${at}`, ...one }));
      const sources: Record<string, Item[]> = { a, b };
      const placed = new Set([itemKey("a", "i0"), itemKey("b", "i3")]);
      const had = ({ id }: Contact, campaigns: number) =>
        new Set(campaigns === 1 ? [itemKey("a", `i${id}`)] : [itemKey("a", `i${id}`), itemKey("b", "i1")]);
      const lists = pickLists(asks, {
        items: (source) => sources[source],
        placed,
        audience: { today: TODAY },
        seed: "c",
        had,
      });
      // In turn and back again: nothing of one reader is left for another.
      for (const reader of [...all, ...[...all].reverse()]) {
        const got = lists.map(({ items: from, pick }) =>
          pick(reader).map(({ at, way }) => ({ id: from[at].id, way })),
        );
        expect(got).toEqual(slowly(asks, sources, placed, had, reader));
      }
    }),
    { numRuns: 300 },
  );
});

describe("an order at random", () => {
  const many = Array.from({ length: 200 }, (_, at) => itemOf({ id: `i${at}` }));
  const one: ListAsk = {
    block: "b",
    source: "a",
    ways: [{ by: "random" }],
    count: 4,
    apart: false,
    unsent: 0,
    unbought: 0,
    sold: false,
  };
  const picked = (seed: string, from: readonly Item[] = many) => {
    const [list] = pickLists([one], {
      items: () => from,
      placed: new Set(),
      audience: { today: TODAY },
      seed,
    });
    return Array.from({ length: 2000 }, (_, id) =>
      list.pick({ id, email: "", fields: {}, lists: [] }).map(({ at }) => list.items[at].id),
    );
  };

  test("is each reader's and each campaign's own, and the same whenever one asks", () => {
    const first = picked("one");
    expect(picked("one")).toEqual(first);
    expect(new Set(first.map(String)).size).toBeGreaterThan(1990);
    expect(picked("two").filter((ids, at) => String(ids) === String(first[at]))).toEqual([]);
  });

  test("leads to every item about equally often", () => {
    const counts = new Map(many.map(({ id }) => [id, 0]));
    for (const id of picked("one").flat()) counts.set(id, (counts.get(id) ?? 0) + 1);
    // 8000 draws from 200: 40 each, with a spread of about 6.
    expect(Math.min(...counts.values())).toBeGreaterThan(15);
    expect(Math.max(...counts.values())).toBeLessThan(70);
  });

  test("stays as it is for who did not get what is gone", () => {
    const before = picked("one");
    const after = picked(
      "one",
      many.filter(({ id }) => id !== "i7"),
    );
    for (const [at, ids] of before.entries()) if (!ids.includes("i7")) expect(after[at]).toEqual(ids);
  });
});

test("a rule is said in words, and what it asks of readers is known", () => {
  const said: ItemRule = {
    kind: "all",
    of: [
      { kind: "like", field: "fact.branch", op: "shares", reader: "branch" },
      {
        kind: "any",
        of: [
          { kind: "field", field: "price", op: "atMost", value: 20 },
          { kind: "field", field: "tags", op: "includes", value: "new" },
        ],
      },
    ],
  };
  const words = describeItemRule(said, itemFields([{ key: "branch", label: "Branch", kind: "text" }]), [
    { key: "branch", label: "Branch", kind: "record" },
  ]);
  expect(words.map(({ text }) => text).join("")).toBe(
    "whose branch is the reader’s own branch and (whose price is at most 20 or whose tags includes new)",
  );
  expect(readerFields(said)).toEqual(["branch"]);
  expect(ItemRuleSchema.parse(said)).toEqual(said);
  expect(ItemRuleSchema.safeParse({ kind: "list", list: "letter", in: true }).success).toBe(false);
});
