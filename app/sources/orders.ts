import type { SourceKind } from "~/core/items";
import type { ItemQuery } from "~/server/sources/items";

export type ItemOrder = NonNullable<ItemQuery["order"]>;
/** In which orders the items of a kind of source make sense; the first is its usual one. */
export const ITEM_ORDERS: Record<SourceKind, readonly { value: ItemOrder; label: string }[]> = {
  feed: [
    { value: "newest", label: "Newest first" },
    { value: "name", label: "By name" },
    { value: "given", label: "As it gives them" },
  ],
  catalogue: [
    { value: "given", label: "As it gives them" },
    { value: "name", label: "By name" },
    { value: "cheapest", label: "Cheapest first" },
    { value: "saving", label: "Biggest saving first" },
  ],
  calendar: [
    { value: "soonest", label: "Soonest first" },
    { value: "name", label: "By name" },
  ],
  records: [
    { value: "given", label: "As it gives them" },
    { value: "name", label: "By name" },
    { value: "newest", label: "Newest first" },
    { value: "cheapest", label: "Cheapest first" },
  ],
};

/** Those of all sources together. */
export const ALL_ORDERS: readonly { value: ItemOrder; label: string }[] = [
  { value: "best", label: "Best first" },
  { value: "newest", label: "Newest first" },
  { value: "cheapest", label: "Cheapest first" },
  { value: "saving", label: "Biggest saving first" },
  { value: "name", label: "By name" },
];
