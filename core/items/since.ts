import { same } from "../values";
import { type Item, isSoldOut } from "./item";

/** What may have changed of an item since it was placed, as readers would notice it. */
export type Since =
  | "gone"
  | "title"
  | "text"
  | "link"
  | "picture"
  | "price"
  | "stock"
  | "date"
  | "place"
  | "facts";

/**
 * What has changed of an item.
 * @param placed as it was
 * @param now as its source has it; null where it is gone
 */
export function changedSince(placed: Item, now: Item | null): Since[] {
  if (now === null) return ["gone"];
  const differ = (...keys: (keyof Item)[]) => keys.some((key) => !same(placed[key], now[key]));
  const all: [Since, boolean][] = [
    ["title", differ("title")],
    ["text", differ("text")],
    ["link", differ("link")],
    ["picture", differ("picture")],
    ["price", differ("price", "sale", "currency")],
    // How many there are says nothing as long as there are some.
    ["stock", isSoldOut(placed) !== isSoldOut(now)],
    ["date", differ("date", "until", "zone")],
    ["place", differ("place")],
    ["facts", differ("facts")],
  ];
  return all.flatMap(([what, changed]) => (changed ? [what] : []));
}
