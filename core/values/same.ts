import { remembered } from "./remembered";

/**
 * Whether two JSON values say the same: by structure, whatever the order of their keys. A property that is `undefined`
 * counts as one that is missing.
 */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false;
    return a.every((one, index) => same(one, b[index]));
  }
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  for (const key in left) if (!same(left[key], right[key])) return false;
  for (const key in right) if (right[key] !== undefined && left[key] === undefined) return false;
  return true;
}

/** JSON with the keys of every object in order, so that equal values give equal texts. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, it: unknown) =>
    typeof it === "object" && it !== null && !Array.isArray(it)
      ? Object.fromEntries(Object.entries(it).sort(([a], [b]) => (a < b ? -1 : 1)))
      : it,
  );
}

/** The same of a part of a document, worked out once: what equal parts, such as rules, are told by. */
export const textOf: (part: object) => string = remembered(canonical);

/**
 * A value with the very parts of an older one wherever they say the same, so that a small change of a large thing
 * takes little memory and the rest is known to be unchanged.
 */
export function sharing<T>(old: unknown, value: T): T {
  if (same(old, value)) return old as T;
  if (Array.isArray(old) && Array.isArray(value)) {
    const shift = value.length - old.length;
    // What stands behind a change has moved along with it.
    return value.map((one, at) => {
      const here = same(old[at], one) || shift === 0 ? old[at] : old[at - shift];
      return sharing(here, one);
    }) as T;
  }
  if (typeof old !== "object" || old === null || typeof value !== "object" || value === null) return value;
  if (Array.isArray(old) || Array.isArray(value)) return value;
  const from = old as Record<string, unknown>;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, sharing(from[key], one)])) as T;
}
