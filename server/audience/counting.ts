/** How many meet a rule, what each of its lines does to that number, and which values fields have. */
import { type Bits, type Contact, contactName, factIn, type Rule } from "~/core/audience";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { valuesIn } from "./answers";
import { contactsById } from "./contacts";
import { readerFields } from "./fields";
import { audienceContext } from "./groups";
import { type Selection, selectedReaders } from "./selection";

export interface CountedRule {
  count: number;
  /** The first of them. */
  sample: Contact | null;
  /** Some of them, by name. */
  names: string[];
  /**
   * By the places of lines in their groups, such as "1.0": how many a line takes away (or brings, where any line will
   * do) after those before it, and how many are left then.
   */
  parts: Record<string, { change: number; left: number }>;
}

/** So many are named. */
const NAMED = 3;

/**
 * Counts a rule of subscribed contacts.
 * @param among counted are only those chosen here; everybody when it chooses nobody
 * @throws RuleError when a segment is missing or refers to itself
 */
export async function countRule(
  septima: Septima,
  rule: Rule,
  among: Selection = { include: [], exclude: [] },
): Promise<CountedRule> {
  const { readers: everyone, meets: meet } = await selectedReaders(septima, among, [rule]);
  const meets = (part: Rule) => meet(part).and(everyone);
  const parts: CountedRule["parts"] = {};
  const walk = (group: Rule, path: readonly number[]): void => {
    if (!("of" in group)) return;
    let so = group.kind === "any" ? everyone.without(everyone) : everyone;
    for (const [index, part] of group.of.entries()) {
      const place = [...path, index];
      const fits = meets(part);
      const next =
        group.kind === "all" ? so.and(fits) : group.kind === "any" ? so.or(fits) : so.without(fits);
      parts[place.join(".")] = { change: Math.abs(next.count() - so.count()), left: next.count() };
      so = next;
      walk(part, place);
    }
  };
  walk(rule, []);
  const found = meets(rule);
  const contacts = await contactsById(septima, firstOf(found, NAMED));
  return {
    count: found.count(),
    sample: contacts.get(found.first()) ?? null,
    names: [...contacts.values()].map(contactName),
    parts,
  };
}

function firstOf(bits: Bits, most: number): number[] {
  const ids: number[] = [];
  for (const id of bits) {
    if (ids.length >= most) break;
    ids.push(id);
  }
  return ids;
}

/** So many values are offered. */
const MOST_VALUES = 200;

/**
 * The values that subscribed contacts have in a field of words, choices or records, the commonest first.
 * @throws Refusal (404) when there is no such field
 */
export async function fieldValues(
  septima: Septima,
  key: string,
): Promise<{ value: string; count: number }[]> {
  const field = (await readerFields(septima)).find((one) => one.key === key);
  if (!field) throw new Refusal(`There is no field “${key}”.`, 404);
  const fact = factIn(key);
  if (fact) return factValues(septima, fact.field, key);
  const counts = new Map<string, number>();
  for (const [value, count] of (await valuesIn(septima, key)) ?? [])
    for (const one of [value].flat())
      if (typeof one === "string" && one !== "") counts.set(one, (counts.get(one) ?? 0) + count);
  return [...counts]
    .map(([value, count]) => ({ value, count }))
    .sort((a, b) => b.count - a.count || (a.value < b.value ? -1 : 1))
    .slice(0, MOST_VALUES);
}

/** What records say, and how many contacts point to those that say it. */
async function factValues(septima: Septima, field: string, key: string) {
  const pointing = await fieldValues(septima, field);
  const { records } = await audienceContext(septima);
  const counts = new Map<string, number>();
  for (const [id, facts] of records?.get(field) ?? []) {
    const value = facts[key];
    if (typeof value !== "string" || value === "") continue;
    counts.set(value, (counts.get(value) ?? 0) + (pointing.find((one) => one.value === id)?.count ?? 0));
  }
  return [...counts].map(([value, count]) => ({ value, count })).sort((a, b) => b.count - a.count);
}
