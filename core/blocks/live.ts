/** What a design holds of its sources: the lists that are picked for each reader, and what was placed by hand. */
import { type Block, blocksOf, type Email } from "../email";
import { itemKey, type ListAsk } from "../picking";
import type { ItemsBlock } from "./items";
import { askOf, type PicksBlock } from "./picks";

const isPicks = (block: Block): block is PicksBlock => block.type === "picks" && block.source !== "";
const isItems = (block: Block): block is ItemsBlock => block.type === "items";

/** What the lists of a design ask, in the order in which they stand in it. */
export function listAsks(email: Email): ListAsk[] {
  return (blocksOf(email) as Block[]).filter(isPicks).map(askOf);
}

/** The items that were placed in a design by hand, as `itemKey` tells them. */
export function placedIn(email: Email): string[] {
  return (blocksOf(email) as Block[])
    .filter(isItems)
    .flatMap(({ items }) => items.map(({ source, item }) => itemKey(source, item.id)));
}
