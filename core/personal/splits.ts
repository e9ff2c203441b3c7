/** What tells the editions of an email apart. */
import type { Rule } from "../audience";
import type { EditionCount } from "./editions";

/** Rules that ask the same thing, such as one field, with the editions' answers to them. */
export interface Split {
  /** The field they ask, or null for a rule of another kind, which stands alone. */
  field: string | null;
  rules: { at: number; rule: Rule }[];
  /** In how many ways the editions answer. */
  ways: number;
}

type Met = Pick<EditionCount, "met">;

/** The one field that a rule asks, alone or in several tests; null where it asks more, or something else. */
function fieldAsked(rule: Rule): string | null {
  if (rule.kind === "field") return rule.field;
  if (!("of" in rule)) return null;
  const fields = new Set(rule.of.map(fieldAsked));
  return fields.size === 1 ? [...fields][0] : null;
}

/** The rules on which editions differ, in the order they are asked, those on one field together. */
export function splitsOf(asked: readonly Rule[], editions: readonly Met[]): Split[] {
  const splits: Split[] = [];
  for (const [at, rule] of asked.entries()) {
    if (new Set(editions.map(({ met }) => met[at])).size < 2) continue;
    const field = fieldAsked(rule);
    const known = field === null ? undefined : splits.find((one) => one.field === field);
    if (known) known.rules.push({ at, rule });
    else splits.push({ field, rules: [{ at, rule }], ways: 0 });
  }
  for (const split of splits)
    split.ways = new Set(editions.map(({ met }) => split.rules.map(({ at }) => met[at]).join(""))).size;
  return splits;
}

/** How an edition answers a split: the rules its readers meet, or that they meet none; null when they are not asked. */
export function answerTo({ rules }: Split, { met }: Met): { meets: Rule[] } | null {
  if (rules.every(({ at }) => met[at] === "0")) return null;
  return { meets: rules.filter(({ at }) => met[at] === "2").map(({ rule }) => rule) };
}
