import { addDays, anniversaryDays } from "./dates";
import { fold, foldSql } from "./fold";
import { type AudienceContext, segmentRule } from "./predicate";
import type { FieldRule, Rule } from "./rule";

/** A boolean SQL expression and the values of its `$n` placeholders. */
export interface SqlCondition {
  sql: string;
  params: unknown[];
}

/**
 * The rule as a condition on the table `contacts c`, never null. Placeholders start at `$1`, or after
 * `taken` parameters of the query around it. Agrees with `predicate` on every contact.
 * @throws RuleError when a segment is missing or refers to itself
 */
export function toSql(rule: Rule, context: AudienceContext, taken = 0): SqlCondition {
  const params: unknown[] = [];
  const param = (value: unknown, type: string) => {
    params.push(value);
    return `$${taken + params.length}::${type}`;
  };

  const group = (parts: Rule[], joint: " and " | " or ", path: readonly string[]) =>
    `(${parts.map((part) => write(part, path)).join(joint)})`;

  const write = (part: Rule, path: readonly string[]): string => {
    switch (part.kind) {
      case "all":
        return part.of.length === 0 ? "true" : group(part.of, " and ", path);
      case "any":
        return part.of.length === 0 ? "false" : group(part.of, " or ", path);
      case "none":
        return part.of.length === 0 ? "true" : `(not ${group(part.of, " or ", path)})`;
      case "list": {
        const member = `exists (select 1 from list_members m where m.contact_id = c.id and m.list_id = ${param(part.list, "text")})`;
        return part.in ? member : `(not ${member})`;
      }
      case "segment": {
        const inner = write(segmentRule(part.segment, context, path), [...path, part.segment]);
        return part.in ? inner : `(not ${inner})`;
      }
      case "field":
        return fieldSql(part, context, param);
    }
  };

  return { sql: write(rule, []), params };
}

function fieldSql(
  rule: FieldRule,
  context: AudienceContext,
  param: (value: unknown, type: string) => string,
): string {
  if (rule.field === "email") {
    return onAddress(rule, param);
  }
  const key = param(rule.field, "text");
  const json = `(c.fields -> ${key})`;
  const text = `(c.fields ->> ${key})`;
  const typed = (type: "string" | "number" | "array", test: string) =>
    `(case when jsonb_typeof(${json}) = '${type}' then ${test} else false end)`;
  const onNumber = (test: string) => typed("number", `${text}::numeric ${test}`);
  const onDate = (test: (date: string) => string) =>
    typed("string", `${text} ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' and ${test(`${text} collate "C"`)}`);
  const known = `(coalesce(${json} <> all (array['null', '""', '[]']::jsonb[]), false))`;

  switch (rule.op) {
    case "is":
    case "isNot":
    case "anyOf":
    case "contains":
    case "startsWith": {
      return textTest(rule, text, (test) => typed("string", test), param);
    }
    case "equals":
      return onNumber(`= ${param(rule.value, "numeric")}`);
    case "atLeast":
      return onNumber(`>= ${param(rule.value, "numeric")}`);
    case "atMost":
      return onNumber(`<= ${param(rule.value, "numeric")}`);
    case "onOrAfter":
      return onDate((date) => `${date} >= ${param(rule.value, "text")}`);
    case "onOrBefore":
      return onDate((date) => `${date} <= ${param(rule.value, "text")}`);
    case "withinLast":
      return onDate(
        (date) =>
          `${date} between ${param(addDays(context.today, -rule.value), "text")} and ${param(context.today, "text")}`,
      );
    case "withinNext":
      return onDate(
        (date) =>
          `${date} between ${param(context.today, "text")} and ${param(addDays(context.today, rule.value), "text")}`,
      );
    case "anniversaryWithin": {
      const days = param([...anniversaryDays(context.today, rule.value)], "text[]");
      return onDate((date) => `substr(${date}, 6) = any (${days})`);
    }
    case "yes":
      return `(coalesce(${json} = 'true'::jsonb, false))`;
    case "no":
      return `(not coalesce(${json} = 'true'::jsonb, false))`;
    case "includes":
      return typed("array", `${json} ? ${param(rule.value, "text")}`);
    case "includesNot":
      return `(not ${typed("array", `${json} ? ${param(rule.value, "text")}`)})`;
    case "known":
      return known;
    case "unknown":
      return `(not ${known})`;
  }
}

type TextRule = Extract<FieldRule, { op: "is" | "isNot" | "anyOf" | "contains" | "startsWith" }>;

/** @param only wraps a test so that it is only made where the value is text */
function textTest(
  rule: TextRule,
  text: string,
  only: (test: string) => string,
  param: (value: unknown, type: string) => string,
): string {
  if (rule.op === "anyOf") {
    const wanted = rule.value.map(fold);
    return only(`${foldSql(text, wanted)} = any (${param(wanted, "text[]")})`);
  }
  const wanted = fold(rule.value);
  const folded = foldSql(text, [wanted]);
  switch (rule.op) {
    case "is":
      return only(`${folded} = ${param(wanted, "text")}`);
    case "isNot":
      return `(not ${only(`${folded} = ${param(wanted, "text")}`)})`;
    case "contains":
      return only(`strpos(${folded}, ${param(wanted, "text")}) > 0`);
    case "startsWith":
      return only(`starts_with(${folded}, ${param(wanted, "text")})`);
  }
}

/** The address is a column of its own, always there and always text. */
function onAddress(rule: FieldRule, param: (value: unknown, type: string) => string): string {
  switch (rule.op) {
    case "is":
    case "isNot":
    case "anyOf":
    case "contains":
    case "startsWith":
      return textTest(rule, "c.email", (test) => `(${test})`, param);
    case "known":
      return "(c.email <> '')";
    case "unknown":
      return "(c.email = '')";
    case "no":
    case "includesNot":
      return "true";
    default:
      return "false";
  }
}
