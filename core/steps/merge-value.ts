import { isInline, isRichDoc, same, type Words } from "../email";
import { isItems, isOpen } from "./difference";
import { mergeWords } from "./merge-words";

/** A value in which both sides contradict each other: `path` says where in it. */
export interface Contradiction {
  path: string;
  mine: unknown;
  theirs: unknown;
}

const isWords = (value: unknown): value is Words =>
  isRichDoc(value) || (Array.isArray(value) && value.length > 0 && value.every(isInline));

/** An empty line is words too, where the other side has some. */
const wordsOrEmpty = (value: unknown): value is Words =>
  isWords(value) || (Array.isArray(value) && value.length === 0);

/**
 * One value with the changes of both sides. Where they contradict, theirs stands and the contradiction is reported.
 */
export function mergeValue(
  base: unknown,
  mine: unknown,
  theirs: unknown,
  path: string,
  report: (it: Contradiction) => void,
): unknown {
  if (same(mine, base) || same(mine, theirs)) return theirs;
  if (same(theirs, base)) return mine;
  if ([base, mine, theirs].every(wordsOrEmpty) && [base, mine, theirs].some(isWords)) {
    const merged = mergeWords(base as Words, mine as Words, theirs as Words);
    if (merged) return merged;
  } else if (isOpen(mine) && isOpen(theirs) && (isOpen(base) || base === undefined)) {
    const from = (base ?? {}) as Record<string, unknown>;
    const merged: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = mergeValue(from[key], mine[key], theirs[key], `${path}/${key}`, report);
      if (value !== undefined) merged[key] = value;
    }
    return merged;
  } else if (isItems(base) && isItems(mine) && isItems(theirs))
    return mergeItems(base, mine, theirs, path, report);
  report({ path, mine, theirs });
  return theirs;
}

type Item = { id: string } & Record<string, unknown>;

/** Lists of items: what one side took out goes unless the other changed it, what one added comes after its neighbour. */
function mergeItems(
  base: readonly Item[],
  mine: readonly Item[],
  theirs: readonly Item[],
  path: string,
  report: (it: Contradiction) => void,
): Item[] {
  const [was, my, their] = [base, mine, theirs].map((list) => new Map(list.map((item) => [item.id, item])));
  const merged = new Map<string, Item>();
  for (const id of new Set([...their.keys(), ...my.keys()])) {
    const [from, left, right] = [was.get(id), my.get(id), their.get(id)];
    const one = left ?? right;
    if (left && right) merged.set(id, mergeValue(from ?? {}, left, right, `${path}/${id}`, report) as Item);
    else if (!from) merged.set(id, one as Item);
    else if (!same(one, from)) {
      // One side changed what the other took out: it stays, and is asked about.
      merged.set(id, one as Item);
      report({ path: `${path}/${id}`, mine: left, theirs: right });
    }
  }
  const ids = (list: readonly Item[]) => list.map((item) => item.id);
  const moved = !same(
    ids(mine).filter((id) => was.has(id)),
    ids(base).filter((id) => my.has(id)),
  );
  const order = moved ? orderOf(ids(mine), ids(theirs)) : orderOf(ids(theirs), ids(mine));
  return order.flatMap((id) => merged.get(id) ?? []);
}

/** The first order, with what only the second has put behind its neighbour there. */
function orderOf(first: readonly string[], second: readonly string[]): string[] {
  const out = [...first];
  for (const [index, id] of second.entries()) {
    if (out.includes(id)) continue;
    const before = second.slice(0, index).findLast((other) => out.includes(other));
    out.splice(before === undefined ? 0 : out.indexOf(before) + 1, 0, id);
  }
  return out;
}
