/** What stands at a dotted path inside a node, as in `items.2.content`; undefined when there is nothing. */
export function valueAt(node: object, path: string): unknown {
  let at: unknown = node;
  for (const key of path.split(".")) {
    if (typeof at !== "object" || at === null || !Object.hasOwn(at, key)) return undefined;
    at = (at as Record<string, unknown>)[key];
  }
  return at;
}

/** The property to set, and its new value, so that `value` stands at a dotted path; what is given stays as it is. */
export function withValueAt(node: object, path: string, value: unknown): Record<string, unknown> {
  const [first, ...rest] = path.split(".");
  return { [first]: replaced((node as Record<string, unknown>)[first], rest, value) };
}

function replaced(at: unknown, path: readonly string[], value: unknown): unknown {
  if (path.length === 0) return value;
  const [key, ...rest] = path;
  if (Array.isArray(at))
    return at.map((it, index) => (String(index) === key ? replaced(it, rest, value) : it));
  const object = (at ?? {}) as Record<string, unknown>;
  return { ...object, [key]: replaced(object[key], rest, value) };
}
