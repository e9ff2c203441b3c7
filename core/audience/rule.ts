import { z } from "zod";
import type { FieldDef, FieldKind } from "./contact";
import { DATE_SHAPE } from "./dates";

const word = z
  .string()
  .max(500)
  .refine((text) => !text.includes("\u0000"), "may not contain NUL");
const days = z.number().int().min(0).max(36_500);
const date = z.string().regex(DATE_SHAPE);

const field = <Op extends string, Value extends z.ZodType>(op: Op, value: Value) =>
  z.object({ kind: z.literal("field"), field: z.string(), op: z.literal(op), value });
const bare = <Op extends string>(op: Op) =>
  z.object({ kind: z.literal("field"), field: z.string(), op: z.literal(op) });

/** A test on one field. The operator decides which type it looks at; a value of another type is missing. */
const FieldRuleSchema = z.discriminatedUnion("op", [
  field("is", word),
  field("isNot", word),
  field("anyOf", z.array(word).max(200)),
  field("contains", word),
  field("startsWith", word),
  field("equals", z.number()),
  field("atLeast", z.number()),
  field("atMost", z.number()),
  field("onOrAfter", date),
  field("onOrBefore", date),
  field("withinLast", days),
  field("withinNext", days),
  field("anniversaryWithin", days.max(366)),
  bare("yes"),
  bare("no"),
  field("includes", word),
  field("includesNot", word),
  bare("known"),
  bare("unknown"),
]);
export type FieldRule = z.infer<typeof FieldRuleSchema>;
export type FieldOp = FieldRule["op"];

export type Rule =
  | { kind: "all" | "any" | "none"; of: Rule[] }
  | FieldRule
  | { kind: "list"; list: string; in: boolean }
  | { kind: "segment"; segment: string; in: boolean };

/**
 * The one syntax tree for show rules and segments. `all` of nothing is true, `any` of nothing is false and
 * `none` of nothing is true. Every test is two-valued: what is missing is not equal to anything.
 */
export const RuleSchema: z.ZodType<Rule> = z.lazy(() =>
  z.union([
    z.object({ kind: z.enum(["all", "any", "none"]), of: z.array(RuleSchema).max(100) }),
    FieldRuleSchema,
    z.object({ kind: z.literal("list"), list: z.string(), in: z.boolean() }),
    z.object({ kind: z.literal("segment"), segment: z.string(), in: z.boolean() }),
  ]),
);

/** How an operator reads in a sentence, and what its value looks like. */
export const FIELD_OPS: Record<
  FieldOp,
  { words: string; value: "word" | "words" | "number" | "date" | "days" | "none" }
> = {
  is: { words: "is", value: "word" },
  isNot: { words: "is not", value: "word" },
  anyOf: { words: "is one of", value: "words" },
  contains: { words: "contains", value: "word" },
  startsWith: { words: "starts with", value: "word" },
  equals: { words: "is", value: "number" },
  atLeast: { words: "is at least", value: "number" },
  atMost: { words: "is at most", value: "number" },
  onOrAfter: { words: "is on or after", value: "date" },
  onOrBefore: { words: "is on or before", value: "date" },
  withinLast: { words: "was in the last", value: "days" },
  withinNext: { words: "is in the next", value: "days" },
  anniversaryWithin: { words: "has its anniversary within", value: "days" },
  yes: { words: "is yes", value: "none" },
  no: { words: "is not yes", value: "none" },
  includes: { words: "includes", value: "word" },
  includesNot: { words: "does not include", value: "word" },
  known: { words: "is known", value: "none" },
  unknown: { words: "is missing", value: "none" },
};

/** The operators offered for a kind of field, the usual one first. */
export const OPS_BY_KIND: Record<FieldKind, readonly FieldOp[]> = {
  text: ["is", "isNot", "contains", "startsWith", "known", "unknown"],
  choice: ["is", "isNot", "anyOf", "known", "unknown"],
  number: ["atLeast", "atMost", "equals", "known", "unknown"],
  date: ["withinLast", "withinNext", "onOrAfter", "onOrBefore", "anniversaryWithin", "known", "unknown"],
  boolean: ["yes", "no", "known", "unknown"],
  set: ["includes", "includesNot", "known", "unknown"],
};

/** A first, harmless rule on a field with an operator: what the rule editor starts a line with. */
export function fieldRuleFor(def: FieldDef, op: FieldOp, today: string): FieldRule {
  const base = { kind: "field" as const, field: def.key };
  const first = def.options?.[0]?.value ?? "";
  switch (op) {
    case "yes":
    case "no":
    case "known":
    case "unknown":
      return { ...base, op };
    case "anyOf":
      return { ...base, op, value: first === "" ? [] : [first] };
    case "equals":
    case "atLeast":
    case "atMost":
      return { ...base, op, value: 1 };
    case "onOrAfter":
    case "onOrBefore":
      return { ...base, op, value: today };
    case "withinLast":
    case "withinNext":
    case "anniversaryWithin":
      return { ...base, op, value: 30 };
    default:
      return { ...base, op, value: first };
  }
}
