import { didSql } from "./behaviour";
import type { AudienceContext } from "./context";
import { addSpan, anniversaryDays } from "./dates";
import { fold, foldSql } from "./fold";
import { namedRule, predicate } from "./predicate";
import { factIn } from "./records";
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
        const member = `exists (select 1 from list_members m join lists l on l.id = m.list_id and l.deleted_at is null where m.contact_id = c.id and m.list_id = ${param(part.list, "text")})`;
        return part.in ? member : `(not ${member})`;
      }
      case "segment":
      case "standing": {
        const inner = write(...namedRule(part, context, path));
        return part.in ? inner : `(not ${inner})`;
      }
      case "status":
        return `(c.status = ${param(part.status, "text")})`;
      case "did":
        return didSql(part, context, param);
      case "field":
        return factSql(part, context, param) ?? fieldSql(part, context, param);
    }
  };

  return { sql: write(rule, []), params };
}

/**
 * A test on the fact of a record, as one on which records a contact may point to: there are few records, and they are
 * asked beforehand. Null when the field points to nothing.
 */
function factSql(
  rule: FieldRule,
  context: AudienceContext,
  param: (value: unknown, type: string) => string,
): string | null {
  const fact = factIn(rule.field);
  const known = fact && context.records?.get(fact.field);
  if (!fact || !known) return null;
  const test = predicate(rule, context);
  const meets = (fields: Readonly<Record<string, unknown>>) => test({ id: 0, email: "", fields, lists: [] });
  // Who points nowhere, or to a record that is gone, is in the same place as somebody who lacks the fact.
  const otherwise = meets({});
  const others = [...known].filter(([, facts]) => meets(facts) !== otherwise).map(([id]) => id);
  const key = param(fact.field, "text");
  const among = `(case when jsonb_typeof(c.fields -> ${key}) = 'string' then c.fields ->> ${key} = any (${param(others, "text[]")}) else false end)`;
  return otherwise ? `(not ${among})` : among;
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
    case "noneOf":
    case "contains":
    case "containsNot":
    case "startsWith":
    case "endsWith":
      return textTest(rule, text, (test) => typed("string", test), param);
    case "equals":
      return onNumber(`= ${param(rule.value, "numeric")}`);
    case "differs":
      return `(not ${onNumber(`= ${param(rule.value, "numeric")}`)})`;
    case "atLeast":
      return onNumber(`>= ${param(rule.value, "numeric")}`);
    case "atMost":
      return onNumber(`<= ${param(rule.value, "numeric")}`);
    case "on":
      return onDate((date) => `${date} = ${param(rule.value, "text")}`);
    case "onOrAfter":
      return onDate((date) => `${date} >= ${param(rule.value, "text")}`);
    case "onOrBefore":
      return onDate((date) => `${date} <= ${param(rule.value, "text")}`);
    case "withinLast":
      return onDate(
        (date) =>
          `${date} between ${param(addSpan(context.today, rule.value, -1), "text")} and ${param(context.today, "text")}`,
      );
    case "withinNext":
      return onDate(
        (date) =>
          `${date} between ${param(context.today, "text")} and ${param(addSpan(context.today, rule.value), "text")}`,
      );
    case "longerAgo":
      return onDate((date) => `${date} < ${param(addSpan(context.today, rule.value, -1), "text")}`);
    case "furtherAhead":
      return onDate((date) => `${date} > ${param(addSpan(context.today, rule.value), "text")}`);
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
    case "includesAny":
      return typed("array", `${json} ?| ${param(rule.value, "text[]")}`);
    case "known":
      return known;
    case "unknown":
      return `(not ${known})`;
  }
}

type TextOp = "is" | "isNot" | "anyOf" | "noneOf" | "contains" | "containsNot" | "startsWith" | "endsWith";
type TextRule = Extract<FieldRule, { op: TextOp }>;

/** @param only wraps a test so that it is only made where the value is text */
function textTest(
  rule: TextRule,
  text: string,
  only: (test: string) => string,
  param: (value: unknown, type: string) => string,
): string {
  if (rule.op === "anyOf" || rule.op === "noneOf") {
    const wanted = rule.value.map(fold);
    const among = only(`${foldSql(text, wanted)} = any (${param(wanted, "text[]")})`);
    return rule.op === "anyOf" ? among : `(not ${among})`;
  }
  const wanted = fold(rule.value);
  const folded = foldSql(text, [wanted]);
  const word = param(wanted, "text");
  switch (rule.op) {
    case "is":
      return only(`${folded} = ${word}`);
    case "isNot":
      return `(not ${only(`${folded} = ${word}`)})`;
    case "contains":
      return only(`strpos(${folded}, ${word}) > 0`);
    case "containsNot":
      return `(not ${only(`strpos(${folded}, ${word}) > 0`)})`;
    case "startsWith":
      return only(`starts_with(${folded}, ${word})`);
    case "endsWith":
      return only(`right(${folded}, length(${word})) = ${word}`);
  }
}

/** The address is a column of its own, always there and always text. */
function onAddress(rule: FieldRule, param: (value: unknown, type: string) => string): string {
  switch (rule.op) {
    case "is":
    case "isNot":
    case "anyOf":
    case "noneOf":
    case "contains":
    case "containsNot":
    case "startsWith":
    case "endsWith":
      return textTest(rule, "c.email", (test) => `(${test})`, param);
    case "known":
      return "(c.email <> '')";
    case "unknown":
      return "(c.email = '')";
    case "no":
    case "includesNot":
    case "differs":
      return "true";
    default:
      return "false";
  }
}
