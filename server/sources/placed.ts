/** Items that stand in a design by hand, and follow their source until it is sent. */
import { broughtUp, followedIn } from "~/core/blocks";
import type { Email } from "~/core/email";
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
