/** What readers bought, as a whole: what is popular, what goes together, and how soon something is bought again. */

/** Lines of orders, in columns: all of one length, in any order. */
export interface Sales {
  /** What was bought, by its place in `ids`. */
  item: Int32Array;
  /** The number of who bought it. */
  reader: Int32Array;
  /** The order it was part of. */
  order: Int32Array;
  /** Days since 1 January 1970. */
  day: Int32Array;
  /** The ids that sources give items. */
  ids: readonly string[];
}

/** How often each item was bought on a day or later. */
export function popular({ item, day, ids }: Sales, from: number): Int32Array {
  const counts = new Int32Array(ids.length);
  for (let at = 0; at < item.length; at++) if (day[at] >= from) counts[item[at]]++;
  return counts;
}

/** The same, apart for each group of readers. @param groupOf null of who is in none */
export function popularBy(
  { item, day, reader, ids }: Sales,
  from: number,
  groupOf: (reader: number) => string | null,
): Map<string, Int32Array> {
  const groups = new Map<string, Int32Array>();
  for (let at = 0; at < item.length; at++) {
    if (day[at] < from) continue;
    const group = groupOf(reader[at]);
    if (group === null) continue;
    let counts = groups.get(group);
    if (!counts) {
      counts = new Int32Array(ids.length);
      groups.set(group, counts);
    }
    counts[item[at]]++;
  }
  return groups;
}

/** An item that goes with another: how much more often than by chance, and in how many orders. */
export interface Companion {
  item: number;
  lift: number;
  together: number;
}

/**
 * What goes with each item: what stands in the same orders more often than by chance. The lift of two items is
 * P(both) / (P(one) × P(other)) over orders (Brin, Motwani, Ullman, Tsur 1997); what stands together in fewer orders than
 * the floor says nothing.
 * @param floor in orders
 * @returns by the place of each item, the best first; ties by how often, then by place
 */
export function companions({ item, order, ids }: Sales, floor: number): Companion[][] {
  const byOrder = Float64Array.from(order, (one, at) => one * ids.length + item[at]).sort();
  const alone = new Int32Array(ids.length);
  let pairs = new Float64Array(Math.max(16, item.length * 2));
  let length = 0;
  let orders = 0;
  const basket: number[] = [];
  const close = () => {
    if (basket.length === 0) return;
    orders++;
    const room = length + (basket.length * (basket.length - 1)) / 2;
    if (room > pairs.length) {
      const larger = new Float64Array(room * 2);
      larger.set(pairs);
      pairs = larger;
    }
    for (let one = 0; one < basket.length; one++) {
      alone[basket[one]]++;
      for (let other = one + 1; other < basket.length; other++)
        pairs[length++] = basket[one] * ids.length + basket[other];
    }
    basket.length = 0;
  };
  let last = -1;
  for (const key of byOrder) {
    const of = Math.floor(key / ids.length);
    const what = key % ids.length;
    if (of !== last) close();
    // Twice in one order is once.
    if (basket.at(-1) !== what) basket.push(what);
    last = of;
  }
  close();
  const found: Companion[][] = ids.map(() => []);
  const sorted = pairs.subarray(0, length).sort();
  for (let from = 0, to = 0; from < sorted.length; from = to) {
    while (to < sorted.length && sorted[to] === sorted[from]) to++;
    const together = to - from;
    if (together < floor) continue;
    const one = Math.floor(sorted[from] / ids.length);
    const other = sorted[from] % ids.length;
    const lift = (together * orders) / (alone[one] * alone[other]);
    if (lift <= 1) continue;
    found[one].push({ item: other, lift, together });
    found[other].push({ item: one, lift, together });
  }
  for (const all of found) all.sort((a, b) => b.lift - a.lift || b.together - a.together || a.item - b.item);
  return found;
}

/** So often something has to be bought again before that says when. */
const LEAST_GAPS = 3;

/**
 * After how many days each item is usually bought again by the same reader: the middle of all the times between; 0 where
 * that happened too seldom.
 */
export function usualGaps({ item, reader, day, ids }: Sales): Int32Array {
  // By reader and item, then by day.
  const order = [...item.keys()].sort(
    (a, b) => item[a] - item[b] || reader[a] - reader[b] || day[a] - day[b],
  );
  const gaps: number[][] = ids.map(() => []);
  for (let at = 1; at < order.length; at++) {
    const [one, next] = [order[at - 1], order[at]];
    const between = day[next] - day[one];
    if (item[one] === item[next] && reader[one] === reader[next] && between > 0)
      gaps[item[one]].push(between);
  }
  return Int32Array.from(gaps, (all) => {
    if (all.length < LEAST_GAPS) return 0;
    all.sort((a, b) => a - b);
    return all[Math.floor((all.length - 1) / 2)];
  });
}
