import { type FieldRule, fieldRuleFor, type Rule } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";

/** Lines that must all, any or none be met. */
export type Group = Extract<Rule, { of: Rule[] }>;

/** Any rule as a group, so that lines can be added to it. */
export function asGroup(rule: Rule): Group {
  return "of" in rule ? rule : { kind: "all", of: [rule] };
}

/** The rule that a group says: one line alone needs no group, and no line is no rule. */
export function ruleOf(group: Group): Rule | undefined {
  return group.of.length > 1 || (group.kind === "none" && group.of.length === 1) ? group : group.of[0];
}

/** A line to begin with: one that says something as it stands. */
export function firstLine(words: RuleWords): Rule {
  return fieldRuleFor(words.fields[1] ?? words.fields[0], "known", words.today);
}

/** A line to begin with beside others: it asks what none of them does. */
export function nextLine(words: RuleWords, taken: readonly Rule[]): Rule {
  const asked = new Set(taken.map((rule) => JSON.stringify(rule)));
  const last = taken.at(-1);
  // Beside “zone is cool” it is another zone that is asked for.
  const field =
    last?.kind === "field" && last.op === "is"
      ? words.fields.find(({ key }) => key === last.field)
      : undefined;
  const values = (field?.options ?? []).map(({ value }): Rule => ({ ...(last as FieldRule), value }) as Rule);
  const known = words.fields.slice(1).map((one) => fieldRuleFor(one, "known", words.today));
  return [...values, ...known].find((rule) => !asked.has(JSON.stringify(rule))) ?? firstLine(words);
}
