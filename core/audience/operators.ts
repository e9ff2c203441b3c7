/** What can be asked of a field of each kind, how it reads, and what a line begins with. */
import type { FieldDef, FieldKind } from "./contact";
import type { FieldOp, FieldRule } from "./rule";

/** What an operator compares with. */
export type Operand = "word" | "words" | "number" | "date" | "span" | "none";

/** How an operator reads in a sentence, and what its value looks like. */
export const FIELD_OPS: Record<FieldOp, { words: string; value: Operand }> = {
  is: { words: "is", value: "word" },
  isNot: { words: "is not", value: "word" },
  anyOf: { words: "is one of", value: "words" },
  noneOf: { words: "is none of", value: "words" },
  contains: { words: "contains", value: "word" },
  containsNot: { words: "does not contain", value: "word" },
  startsWith: { words: "starts with", value: "word" },
  endsWith: { words: "ends with", value: "word" },
  equals: { words: "is", value: "number" },
  differs: { words: "is not", value: "number" },
  atLeast: { words: "is at least", value: "number" },
  atMost: { words: "is at most", value: "number" },
  on: { words: "is on", value: "date" },
  onOrAfter: { words: "is on or after", value: "date" },
  onOrBefore: { words: "is on or before", value: "date" },
  withinLast: { words: "was in the last", value: "span" },
  withinNext: { words: "is in the next", value: "span" },
  longerAgo: { words: "was more than … ago", value: "span" },
  furtherAhead: { words: "is more than … ahead", value: "span" },
  anniversaryWithin: { words: "comes round within the next", value: "span" },
  yes: { words: "is yes", value: "none" },
  no: { words: "is not yes", value: "none" },
  includes: { words: "includes", value: "word" },
  includesNot: { words: "does not include", value: "word" },
  includesAny: { words: "includes one of", value: "words" },
  known: { words: "is known", value: "none" },
  unknown: { words: "is missing", value: "none" },
};

const NUMBER: readonly FieldOp[] = ["atLeast", "atMost", "equals", "differs", "known", "unknown"];
const CHOICE: readonly FieldOp[] = ["is", "isNot", "anyOf", "noneOf", "known", "unknown"];

/** The operators offered for a kind of field, the usual one first. */
export const OPS_BY_KIND: Record<FieldKind, readonly FieldOp[]> = {
  text: [
    "is",
    "isNot",
    "anyOf",
    "noneOf",
    "contains",
    "containsNot",
    "startsWith",
    "endsWith",
    "known",
    "unknown",
  ],
  choice: CHOICE,
  record: CHOICE,
  number: NUMBER,
  money: NUMBER,
  date: [
    "withinLast",
    "longerAgo",
    "withinNext",
    "furtherAhead",
    "anniversaryWithin",
    "on",
    "onOrAfter",
    "onOrBefore",
    "known",
    "unknown",
  ],
  boolean: ["yes", "no", "known", "unknown"],
  set: ["includes", "includesNot", "includesAny", "known", "unknown"],
};

/**
 * A first, harmless rule on a field with an operator: what a line of the builder starts with.
 * @param before the line as it was: what it compared with is kept where it fits
 */
export function fieldRuleFor(def: FieldDef, op: FieldOp, today: string, before?: FieldRule): FieldRule {
  const base = { kind: "field" as const, field: def.key };
  const operand = FIELD_OPS[op].value;
  const old =
    before?.field === def.key && "value" in before && FIELD_OPS[before.op].value === operand
      ? before.value
      : undefined;
  const first = def.options?.[0]?.value ?? "";
  const fresh = { word: first, words: first === "" ? [] : [first], number: 1, date: today, span: 30 };
  return (operand === "none" ? { ...base, op } : { ...base, op, value: old ?? fresh[operand] }) as FieldRule;
}
