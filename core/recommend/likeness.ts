/** How alike items are by what they are filed under: the cosine of their categories and tags, each counting once. */
import type { Item } from "../items";

/** Words an item is filed under: the steps of its category, and its tags. */
const filedUnder = ({ category, tags }: Item): Set<string> =>
  new Set([...category.map((step) => `c ${step}`), ...tags.map((tag) => `t ${tag}`)]);

/**
 * Finds what is like some items.
 * @returns asked with the places of items: how like each item is to the one of them it is most like, from 0 to 1, and
 *   which that is; what shares nothing with any is missing
 */
export function likenessOf(
  items: readonly Item[],
): (to: readonly number[]) => Map<number, { likeness: number; to: number }> {
  const filed = items.map(filedUnder);
  const under = new Map<string, number[]>();
  for (const [at, words] of filed.entries())
    for (const word of words) {
      const all = under.get(word);
      if (all) all.push(at);
      else under.set(word, [at]);
    }
  const known = new Map<number, Map<number, number>>();
  const likeOne = (to: number): Map<number, number> => {
    let shared = known.get(to);
    if (!shared) {
      shared = new Map();
      for (const word of filed[to])
        for (const at of under.get(word) ?? []) shared.set(at, (shared.get(at) ?? 0) + 1);
      for (const [at, count] of shared) shared.set(at, count / Math.sqrt(filed[to].size * filed[at].size));
      known.set(to, shared);
    }
    return shared;
  };
  return (to) => {
    const best = new Map<number, { likeness: number; to: number }>();
    for (const one of to)
      for (const [at, likeness] of likeOne(one)) {
        const before = best.get(at);
        if (!before || likeness > before.likeness) best.set(at, { likeness, to: one });
      }
    return best;
  };
}
