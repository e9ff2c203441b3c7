/** Contacts and rules at random, for the tests: missing values, wrong types, leap days, odd Unicode, histories. */
import fc from "fast-check";
import type { FieldDef } from "./contact";
import type { DidRule } from "./did-rule";
import type { History } from "./history";
import type { RecordFacts } from "./records";
import type { FieldRule, Rule } from "./rule";
import { STANDING_GROUPS } from "./standing";

const TEXT_FIELDS = ["first_name", "branch", "odd key ' \" {}"];
export const FIELDS = [...TEXT_FIELDS, "orders", "joined", "member", "interests", "email", "shop"];
/** Facts of the records that `shop` points to. */
const FACTS = ["shop.name", "shop.floors", "shop.opened", "shop.gone"];

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
      "نور",
      "חן\u200f",
      "a\u0301\u0308b",
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
  "2025-11-23",
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
const RECORDS = ["north", "south", "odd ' id"];
const values = fc.oneof(
  safeText,
  dates,
  numbers,
  fc.boolean(),
  fc.constant(null),
  fc.array(safeText, { maxLength: 3 }),
  fc.constant({}),
  fc.constant([1, null]),
  fc.constantFrom(...RECORDS),
);

export const CAMPAIGNS = ["spring", "summer", "autumn"];
const LINKS = ["https://shop.example/a", "https://shop.example/ü?x='"];
const PRODUCTS = ["seed-1", "feed-1"];
const CATEGORIES = ["seeds", "tools"];
/** Around the days the tests take for today, at the edges of days in zones behind and ahead of UTC. */
const moments = fc.oneof(
  fc.constantFrom(
    ...["2026-11-22", "2026-11-23", "2026-10-24", "2025-11-23", "2024-02-28", "2023-01-29"].flatMap((day) =>
      ["00:00:00.000Z", "04:59:59.999Z", "05:00:00.000Z", "10:00:00.000Z", "23:59:59.999Z"].map((time) =>
        Date.parse(`${day}T${time}`),
      ),
    ),
  ),
  fc.integer({ min: Date.parse("2022-01-01"), max: Date.parse("2026-11-23") }),
);
const history: fc.Arbitrary<History> = fc.record({
  events: fc.array(
    fc.oneof(
      fc.record({
        what: fc.constantFrom("sent" as const, "opened" as const, "answered" as const),
        at: moments,
        campaign: fc.constantFrom(...CAMPAIGNS),
      }),
      fc.record({
        what: fc.constant("clicked" as const),
        at: moments,
        campaign: fc.constantFrom(...CAMPAIGNS),
        address: fc.constantFrom(...LINKS),
      }),
    ),
    { maxLength: 6 },
  ),
  orders: fc.array(
    fc.record({
      at: moments,
      lines: fc.array(
        fc.record({ product: fc.constantFrom(...PRODUCTS), category: fc.constantFrom(...CATEGORIES) }),
        { maxLength: 2 },
      ),
    }),
    { maxLength: 3 },
  ),
});

/** Without a number: whoever stores them gives one. */
export const anyContact = fc.record({
  email: fc.oneof(safeText, fc.constantFrom("ines@mail.example", "INES@MAIL.EXAMPLE")),
  fields: fc.dictionary(fc.constantFrom(...FIELDS.filter((key) => key !== "email")), values),
  lists: fc.subarray(["letter", "club"]),
  status: fc.constantFrom(
    "subscribed" as const,
    "subscribed" as const,
    "unsubscribed" as const,
    "bounced" as const,
    "complained" as const,
  ),
  history,
});

const span = fc.oneof(
  fc.integer({ min: 0, max: 400 }),
  fc.record({ months: fc.integer({ min: 0, max: 30 }) }),
);
const kind = fc.constant("field" as const);
const field = fc.constantFrom(...FIELDS, ...FACTS);
const ops = <const Op extends string>(...names: Op[]) => fc.constantFrom(...names);
const words = fc.array(safeText, { maxLength: 3 });
const anyFieldRule: fc.Arbitrary<FieldRule> = fc.oneof(
  fc.record({
    kind,
    field,
    op: ops("is", "isNot", "contains", "containsNot", "startsWith", "endsWith", "includes", "includesNot"),
    value: fc.oneof(safeText, fc.constantFrom(...RECORDS)),
  }),
  fc.record({ kind, field, op: ops("anyOf", "noneOf", "includesAny"), value: words }),
  fc.record({ kind, field, op: ops("equals", "differs", "atLeast", "atMost"), value: numbers }),
  fc.record({ kind, field, op: ops("on", "onOrAfter", "onOrBefore"), value: dates }),
  fc.record({
    kind,
    field,
    op: ops("withinLast", "withinNext", "longerAgo", "furtherAhead", "anniversaryWithin"),
    value: span,
  }),
  fc.record({ kind, field, op: ops("yes", "no", "known", "unknown") }),
);

const optional = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: undefined });
const did = fc.record({
  kind: fc.constant("did" as const),
  often: fc.constantFrom("atLeast" as const, "atMost" as const),
  times: fc.integer({ min: 0, max: 3 }),
  within: optional(span),
  campaign: optional(fc.constantFrom(...CAMPAIGNS, "gone")),
  link: optional(fc.constantFrom(...LINKS, "https://never.example")),
  product: optional(fc.constantFrom(...PRODUCTS)),
  category: optional(fc.constantFrom(...CATEGORIES)),
  what: fc.constantFrom(
    "sent" as const,
    "opened" as const,
    "clicked" as const,
    "answered" as const,
    "bought" as const,
  ),
});
const anyDid: fc.Arbitrary<DidRule> = did.map(
  ({ what, campaign, link, product, category, within, ...rest }): DidRule => {
    const often = { ...rest, ...(within !== undefined && { within }) };
    if (what === "bought")
      return { ...often, what, ...(product && { product }), ...(category && { category }) };
    const of = { ...often, ...(campaign && { campaign }) };
    return what === "clicked" ? { ...of, what, ...(link && { link }) } : { ...of, what };
  },
);

const leaf: fc.Arbitrary<Rule> = fc.oneof(
  { weight: 4, arbitrary: anyFieldRule },
  { weight: 2, arbitrary: anyDid },
  fc.record({
    kind: fc.constant("list" as const),
    list: fc.constantFrom("letter", "club", "gone"),
    in: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant("status" as const),
    status: fc.constantFrom("subscribed" as const, "unsubscribed" as const, "complained" as const),
  }),
  fc.record({
    kind: fc.constant("segment" as const),
    segment: fc.constantFrom("cool", "nested"),
    in: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant("standing" as const),
    group: fc.constantFrom(...STANDING_GROUPS.map(({ id }) => id)),
    in: fc.boolean(),
  }),
);
export const { rule: anyRule } = fc.letrec<{ rule: Rule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.record({
      kind: fc.constantFrom("all" as const, "any" as const, "none" as const),
      of: fc.array(tie("rule"), { maxLength: 3 }),
    }),
  ),
}));

/** The segments that the rules name. */
export const SEGMENTS = new Map<string, Rule>([
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

/** What stands behind `shop`; one record lacks a fact, and what points to no record is nowhere. */
export const SHOP_FIELD: FieldDef = { key: "shop", label: "Shop", kind: "record", table: "shops" };
export const RECORD_FACTS: RecordFacts = new Map([
  [
    "shop",
    new Map<string, Record<string, string | number>>([
      ["north", { "shop.name": "Alderwick", "shop.floors": 2, "shop.opened": "2025-11-23" }],
      ["south", { "shop.name": "éLODIE", "shop.floors": 0 }],
      ["odd ' id", { "shop.name": "🌱", "shop.opened": "2026-11-23" }],
    ]),
  ],
]);

/** Days on which something turns, and zones behind and ahead of UTC. */
export const anyDay = fc.record({
  today: fc.constantFrom("2026-11-23", "2024-02-28", "2024-02-29", "2023-02-28", "2025-12-31"),
  zone: fc.constantFrom(
    "UTC",
    "Europe/London",
    "America/New_York",
    "Pacific/Kiritimati",
    "Pacific/Pago_Pago",
  ),
});
