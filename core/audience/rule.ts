import { z } from "zod";
import { type ContactStatus, STATUSES } from "./contact";
import { DATE_SHAPE, SpanSchema } from "./dates";
import { type DidRule, DidRuleSchema } from "./did-rule";

const word = z
  .string()
  .max(500)
  .refine((text) => !text.includes("\u0000"), "may not contain NUL");
const words = z.array(word).max(200);
const date = z.string().regex(DATE_SHAPE);

const field = <Op extends string, Value extends z.ZodType>(op: Op, value: Value) =>
  z.object({ kind: z.literal("field"), field: z.string(), op: z.literal(op), value });
const bare = <Op extends string>(op: Op) =>
  z.object({ kind: z.literal("field"), field: z.string(), op: z.literal(op) });

/** A test on one field. The operator decides which type it looks at; a value of another type is missing. */
const FieldRuleSchema = z.discriminatedUnion("op", [
  field("is", word),
  field("isNot", word),
  field("anyOf", words),
  field("noneOf", words),
  field("contains", word),
  field("containsNot", word),
  field("startsWith", word),
  field("endsWith", word),
  field("equals", z.number()),
  field("differs", z.number()),
  field("atLeast", z.number()),
  field("atMost", z.number()),
  field("on", date),
  field("onOrAfter", date),
  field("onOrBefore", date),
  field("withinLast", SpanSchema),
  field("withinNext", SpanSchema),
  field("longerAgo", SpanSchema),
  field("furtherAhead", SpanSchema),
  field("anniversaryWithin", SpanSchema),
  bare("yes"),
  bare("no"),
  field("includes", word),
  field("includesNot", word),
  field("includesAny", words),
  bare("known"),
  bare("unknown"),
]);
export type FieldRule = z.infer<typeof FieldRuleSchema>;
export type FieldOp = FieldRule["op"];

/** A name for a rule that is kept elsewhere: a segment, or a group that Septima keeps. */
export type NamedRule =
  | { kind: "segment"; segment: string; in: boolean }
  | { kind: "standing"; group: string; in: boolean };

export type Rule =
  | { kind: "all" | "any" | "none"; of: Rule[] }
  | FieldRule
  | { kind: "list"; list: string; in: boolean }
  | { kind: "status"; status: ContactStatus }
  | DidRule
  | NamedRule;

/**
 * The one syntax tree for show rules and segments. `all` of nothing is true, `any` of nothing is false and
 * `none` of nothing is true. Every test is two-valued: what is missing is not equal to anything.
 */
export const RuleSchema: z.ZodType<Rule> = z.lazy(() =>
  z.union([
    z.object({ kind: z.enum(["all", "any", "none"]), of: z.array(RuleSchema).max(100) }),
    FieldRuleSchema,
    DidRuleSchema,
    z.object({ kind: z.literal("list"), list: z.string(), in: z.boolean() }),
    z.object({ kind: z.literal("status"), status: z.enum(STATUSES) }),
    z.object({ kind: z.literal("segment"), segment: z.string(), in: z.boolean() }),
    z.object({ kind: z.literal("standing"), group: z.string(), in: z.boolean() }),
  ]),
);

/** The rule's parts that are groups of rules are walked through, and what is neither is visited. */
export function visitRule(rule: Rule, visit: (leaf: Exclude<Rule, { of: Rule[] }>) => void): void {
  if ("of" in rule) for (const part of rule.of) visitRule(part, visit);
  else visit(rule);
}
