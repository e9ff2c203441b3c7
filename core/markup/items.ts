import type { Raw } from "../email";

/** Items as they come from the shelf, each with an id of its own within its block. */
export function numbered<T extends object>(items: readonly T[]): ({ id: string } & T)[] {
  return items.map((item, index) => ({ id: String(index + 1), ...item }));
}

/** For upgrades: gives the items of a list ids by their places. */
export function withItemIds(block: Raw, key: string): Raw {
  const items = block[key];
  if (!Array.isArray(items)) return block;
  return {
    ...block,
    [key]: items.map((item: unknown, index) =>
      typeof item === "object" && item !== null ? { id: String(index + 1), ...item } : item,
    ),
  };
}
