import type { Rule } from "../audience";
import { blockType } from "../blocks";
import { type Email, walk } from "../email";
import type { Level } from "../markup";
import { textOf } from "../values";

/** A level, for those who meet the rule; the last of several has none. */
export interface LevelCase {
  when?: Rule;
  level: Level;
}

/** So many rules decide levels at most; whoever does not get a heading by a further one is taken to get it. */
const MOST_RULES = 8;

/** A heading on the way through a design: by which of the rules somebody gets it, all of them. */
interface Heading {
  id: string;
  look: number;
  chosen: Level | undefined;
  rules: readonly number[];
}

/** The looks that stand under the first heading above a place; null before it. */
type Above = readonly number[] | null;

/**
 * The level of each block's heading as mail programs and screen readers are told: one more than that of the heading it
 * stands under, so that none is skipped, whatever the looks that were chosen. The first that a reader gets is a 1, and no
 * other is. A level that the designer chose stands, and those after it are counted from there.
 *
 * All ways to meet the rules of headings are gone through at once: who meets which is the bits of a number.
 */
export function headingLevels(email: Email): ReadonlyMap<string, readonly LevelCase[]> {
  const { headings, rules } = headingsOf(email);
  const above: Above[] = Array.from({ length: 2 ** rules.length }, () => null);
  const levels = new Map<string, readonly LevelCase[]>();
  for (const { id, look, chosen, rules: asked } of headings) {
    const here: (Level | null)[] = above.map(() => null);
    for (const met of above.keys()) {
      if (!asked.every((rule) => (met >> rule) & 1)) continue;
      const { level, next } = under(above[met], look, chosen);
      here[met] = level;
      above[met] = next;
    }
    levels.set(id, casesOf(here, rules));
  }
  return levels;
}

function headingsOf(email: Email): { headings: Heading[]; rules: Rule[] } {
  const rules: Rule[] = [];
  const known = new Map<string, number>();
  const around: (Rule | undefined)[] = [];
  const headings: Heading[] = [];
  const numberOf = (rule: Rule): number[] => {
    const key = textOf(rule);
    if (!known.has(key) && rules.length < MOST_RULES) known.set(key, rules.push(rule) - 1);
    return [known.get(key) ?? []].flat();
  };
  for (const it of walk(email)) {
    if (it.kind === "section") around.splice(0, 2, it.node.show, undefined);
    if (it.kind === "row") around[1] = it.node.show;
    if (it.kind !== "block") continue;
    const type = blockType(it.node.type);
    const look = type?.heading?.(it.node);
    if (!look) continue;
    headings.push({
      id: it.node.id,
      look,
      chosen: type?.outline?.(it.node),
      rules: [...around, it.node.show].flatMap((rule) => (rule ? numberOf(rule) : [])),
    });
  }
  return { headings, rules };
}

/** The level of a heading under others, and what stands above the next one. */
function under(
  above: Above,
  look: number,
  chosen: Level | undefined,
): { level: Level; next: readonly number[] } {
  if (chosen !== undefined) {
    const next = (above ?? []).slice(0, Math.max(0, chosen - 2));
    // Levels that the designer passed over count as if they were there.
    while (next.length < chosen - 1) next.push(look);
    return { level: chosen, next };
  }
  if (above === null) return { level: 1, next: [] };
  const next = [...above.filter((one) => one < look), look];
  return { level: Math.min(next.length + 1, 6) as Level, next };
}

/**
 * The levels of a heading with those for whom they are, each once.
 * @param here by the rules that are met; null where nobody gets it
 */
function casesOf(here: readonly (Level | null)[], rules: readonly Rule[]): LevelCase[] {
  const all = [...new Set(here)].filter((level) => level !== null).sort((one, other) => one - other);
  return all.map((level, at) => {
    // Whoever does not get the heading may count as anybody: what is asked is the less.
    const when =
      at < all.length - 1 &&
      ruleFor(
        here.map((one) => (one === null ? null : one === level)),
        rules,
      );
    return { level, ...(typeof when === "object" && { when }) };
  });
}

/** A rule that is met exactly where a table says so, asking as little as can be; null in the table is either. */
function ruleFor(table: readonly (boolean | null)[], rules: readonly Rule[]): Rule | boolean {
  const said = new Set(table.filter((it) => it !== null));
  if (said.size < 2) return !said.has(false);
  // The last rule parts the table in the middle.
  const last = rules.length - 1;
  const half = table.length / 2;
  const [without, met] = [table.slice(0, half), table.slice(half)];
  const rest = rules.slice(0, last);
  const merged = without.map((it, at) => it ?? met[at]);
  if (without.every((it, at) => it === null || met[at] === null || it === met[at]))
    return ruleFor(merged, rest);
  const [no, yes] = [ruleFor(without, rest), ruleFor(met, rest)];
  const rule = rules[last];
  return anyOf(allOf(rule, yes), allOf({ kind: "none", of: [rule] }, no));
}

const allOf = (rule: Rule, other: Rule | boolean): Rule | false =>
  typeof other === "boolean" ? other && rule : { kind: "all", of: [rule, other] };
const anyOf = (one: Rule | false, other: Rule | false): Rule | false =>
  one && other ? { kind: "any", of: [one, other] } : one || other;
