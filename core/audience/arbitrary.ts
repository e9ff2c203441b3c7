/** Contacts and rules at random, for the tests: missing values, wrong types, leap days, odd Unicode. */
import fc from "fast-check";
import type { Rule } from "./rule";

const TEXT_FIELDS = ["first_name", "branch", "odd key ' \" {}"];
export const FIELDS = [...TEXT_FIELDS, "orders", "joined", "member", "interests", "email"];

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
/** Without a number: whoever stores them gives one. */
export const anyContact = fc.record({
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
