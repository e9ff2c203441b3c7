/** What a design holds of its sources: the lists that are picked for each reader, and what was placed by hand. */
import { type Block, blocksOf, type Email, itemsNamed, mapEmail } from "../email";
import type { Item } from "../items";
import { itemKey, type ListAsk } from "../picking";
import { same } from "../values";
import type { ItemsBlock } from "./items";
import { askOf, type PicksBlock } from "./picks";

const isPicks = (block: Block): block is PicksBlock => block.type === "picks" && block.source !== "";
const isItems = (block: Block): block is ItemsBlock => block.type === "items";

/** What the lists of a design ask, in the order in which they stand in it. */
export function listAsks(email: Email): ListAsk[] {
  return (blocksOf(email) as Block[]).filter(isPicks).map(askOf);
}

/** The items that were placed in a design by hand: source and id of each. */
export function placedOf(email: Email): (readonly [source: string, id: string])[] {
  return (blocksOf(email) as Block[])
    .filter(isItems)
    .flatMap(({ items }) => items.map(({ source, item }) => [source, item.id] as const));
}

/** The same as `itemKey` tells them. */
export const placedIn = (email: Email): string[] =>
  placedOf(email).map(([source, id]) => itemKey(source, id));

const isFollowing = (block: Block): block is ItemsBlock => isItems(block) && block.follow;
const followedOf = ({ items }: ItemsBlock) =>
  items.flatMap(({ source, item }) => (source === "" ? [] : [[source, item.id] as const]));

/** The placed items of a design that are to be as their source has them when it is sent: source and id of each. */
export function followedIn(email: Email): (readonly [source: string, id: string])[] {
  return (blocksOf(email) as Block[]).filter(isFollowing).flatMap(followedOf);
}

/** The sources that a block is filled from when it is sent. */
export function sourcesOf(block: Block): string[] {
  if (isFollowing(block)) return followedOf(block).map(([source]) => source);
  return typeof block.source === "string" && block.source !== "" ? [block.source] : [];
}

/**
 * A design whose placed items are as their sources have them, where it follows them: one that is gone is left out. What was
 * typed over an item stays. The design itself where nothing has changed.
 * @param now an item as its source has it; null where it is gone
 */
export function broughtUp(email: Email, now: (source: string, id: string) => Item | null): Email {
  let changed = false;
  const next = mapEmail(email, (node) => {
    if (!("type" in node) || !isFollowing(node as Block)) return node;
    const block = node as ItemsBlock;
    const items = block.items.flatMap((placed) => {
      if (placed.source === "") return [placed];
      const item = now(placed.source, placed.item.id);
      return item === null ? [] : [same(item, placed.item) ? placed : { ...placed, item }];
    });
    const unchanged = items.length === block.items.length && items.every((it, at) => it === block.items[at]);
    if (unchanged) return node;
    changed = true;
    return { ...block, items } as typeof node;
  });
  return changed ? next : email;
}

/** The sources that a block needs when it is sent: that it is filled from, and those its links lead to items of. */
export const sourcesNeeded = (block: Block): string[] => [
  ...sourcesOf(block),
  ...itemsNamed(block).map(([source]) => source),
];

/** The sources whose items a design shows or leads to as they are when it is sent, each once. */
export function sourcesShown(email: Email): string[] {
  return [...new Set(blocksOf(email).flatMap(sourcesNeeded))];
}
