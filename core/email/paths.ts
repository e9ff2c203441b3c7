/**
 * Paths into a node: property keys and ids of items, parted by slashes, as in `items/i2/content`. A list whose items
 * have ids is entered by them, so a path goes on meaning the same thing while items come, go and change places.
 */

type Json = Record<string, unknown>;

/** Whether a value is a list of items with ids of their own. */
export function isItemList(value: unknown): value is ({ id: string } & Json)[] {
  return (
    Array.isArray(value) &&
    value.every((it) => typeof it === "object" && it !== null && typeof (it as Json).id === "string")
  );
}

/** What stands at a path; undefined when there is nothing. The empty path is the node itself. */
export function valueAt(node: object, path: string): unknown {
  let at: unknown = node;
  for (const key of path === "" ? [] : path.split("/")) {
    if (Array.isArray(at)) at = isItemList(at) ? at.find((it) => it.id === key) : undefined;
    else if (typeof at === "object" && at !== null && Object.hasOwn(at, key)) at = (at as Json)[key];
    else return undefined;
  }
  return at;
}

/**
 * The node with another value at a path; `undefined` takes the property, or the item, away. What is given stays as it
 * is. Where the way to the path is gone, the node comes back unchanged.
 */
export function withValueAt<T extends object>(node: T, path: string, value: unknown): T {
  return replaced(node, path.split("/"), value) as T;
}

function replaced(at: unknown, path: readonly string[], value: unknown): unknown {
  const [key, ...rest] = path;
  if (Array.isArray(at)) {
    if (!isItemList(at)) return at;
    if (rest.length === 0 && value === undefined) return at.filter((it) => it.id !== key);
    return at.map((it) => (it.id === key ? (rest.length === 0 ? value : replaced(it, rest, value)) : it));
  }
  if (typeof at !== "object" || at === null) return at;
  const object = at as Json;
  if (rest.length > 0)
    return object[key] === undefined ? at : { ...object, [key]: replaced(object[key], rest, value) };
  if (value !== undefined) return { ...object, [key]: value };
  const { [key]: _, ...others } = object;
  return others;
}
