/** Items that a design names, in its blocks and its links, as their sources have them now. */
import { broughtUp, followedIn } from "~/core/blocks";
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
  const named = itemsNamed(email);
  if (named.length === 0) return [];
  const items = await itemsNow(septima, named);
  return named.flatMap(([source], at) => {
    const item = items[at];
    return item ? [{ source, item }] : [];
  });
}
