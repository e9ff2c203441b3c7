/** Items that a design names, in its blocks and its links, as their sources have them now. */
import { broughtUp, followedIn, placedOf } from "~/core/blocks";
import { type Email, itemsNamed, type NamedItem } from "~/core/email";
import { itemKey } from "~/core/picking";
import type { Septima } from "../septima";
import { itemsNow } from "./items";

/** A design with what its sources have now in the place of what follows them; the design itself where nothing does. */
export async function withItemsNow(septima: Septima, email: Email): Promise<Email> {
  const followed = followedIn(email);
  if (followed.length === 0) return email;
  const items = await itemsNow(septima, followed);
  const found = new Map(followed.map(([source, id], at) => [itemKey(source, id), items[at]]));
  return broughtUp(email, (source, id) => found.get(itemKey(source, id)) ?? null);
}

/** The items that links of a design lead to, as their sources have them now; what is gone is missing. */
export async function itemsLinked(septima: Septima, email: Email): Promise<NamedItem[]> {
  return itemsAt(septima, itemsNamed(email));
}

/** The items that were placed in a design by hand, likewise. */
export async function itemsPlaced(septima: Septima, email: Email): Promise<NamedItem[]> {
  return itemsAt(septima, placedOf(email));
}

async function itemsAt(
  septima: Septima,
  named: readonly (readonly [source: string, id: string])[],
): Promise<NamedItem[]> {
  if (named.length === 0) return [];
  const items = await itemsNow(septima, named);
  return named.flatMap(([source], at) => {
    const item = items[at];
    return item ? [{ source, item }] : [];
  });
}
