import { type FieldRule, fieldRuleFor, type Rule } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";

/** Lines that must all, any or none be met, and groups of them. */
export interface GroupOf<L> {
  kind: "all" | "any" | "none";
  of: (L | GroupOf<L>)[];
}
export type Group = GroupOf<Exclude<Rule, { of: Rule[] }>>;

/** Any rule as a group, so that lines can be added to it. */
export function asGroup<R extends object>(rule: R): GroupOf<Exclude<R, { of: R[] }>> {
  return ("of" in rule ? rule : { kind: "all", of: [rule] }) as GroupOf<Exclude<R, { of: R[] }>>;
}

/** The rule that a group says: one line alone needs no group, and no line is no rule. */
export function ruleOf<L>(group: GroupOf<L>): L | GroupOf<L> | undefined {
  return group.of.length > 1 || (group.kind === "none" && group.of.length === 1) ? group : group.of[0];
}

/** A line to begin with: one that says something as it stands. */
export function firstLine(words: RuleWords): FieldRule {
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
