import { BLOCK_TYPES, type BlockTypeName, blockType } from "../blocks";
import { type Block, type Email, findNode, same, walk } from "../email";
import { type Command, CommandError } from "./commands";

function blocksLike(email: Email, id: string): { block: Block; others: Block[]; keys: readonly string[] } {
  const found = findNode(email, id);
  if (found?.kind !== "block") throw new CommandError("It is no longer in the email.");
  const block = found.node;
  const others: Block[] = [];
  for (const it of walk(email))
    if (it.kind === "block" && it.node.type === block.type && it.node.id !== id) others.push(it.node);
  return { block, others, keys: blockType(block.type)?.look ?? [] };
}

/** How many other blocks of the same kind there are, and how many of them look different. */
export function likeBlocks(email: Email, id: string): { others: number; different: number } {
  const { block, others, keys } = blocksLike(email, id);
  const different = others.filter((other) => keys.some((key) => !same(other[key], block[key])));
  return { others: others.length, different: different.length };
}

/** Gives all blocks of the same kind the look of this one; what they say stays. */
export const spreadLook =
  (id: string): Command =>
  (edit) => {
    const { block, others, keys } = blocksLike(edit.email, id);
    for (const other of others) for (const key of keys) edit.set(other.id, key, block[key]);
  };

/** Whether a block differs from how it comes from the shelf, in its look or in everything. */
export function differsFromShelf(block: Block): { look: boolean; anything: boolean } {
  if (!Object.hasOwn(BLOCK_TYPES, block.type)) return { look: false, anything: false };
  const fresh = BLOCK_TYPES[block.type as BlockTypeName].create(block.id) as Block;
  const keys = new Set([...Object.keys(block), ...Object.keys(fresh)]);
  for (const kept of ["id", "type", "name", "show", "hideOn"]) keys.delete(kept);
  const look = new Set([...(blockType(block.type)?.look ?? []), "off", "phone"]);
  const differing = [...keys].filter((key) => !same(block[key], fresh[key]));
  return { look: differing.some((key) => look.has(key)), anything: differing.length > 0 };
}

/** Sets a block back to how it came from the shelf: only its look, or its content too. Name and rules stay. */
export const fromShelf =
  (id: string, what: "look" | "everything"): Command =>
  (edit) => {
    const { block, keys } = blocksLike(edit.email, id);
    const type = BLOCK_TYPES[block.type as BlockTypeName];
    if (!type) throw new CommandError("A newer version made this block; it stays as it is.");
    const fresh = type.create(id) as Block;
    const reset =
      what === "look"
        ? [...keys, "off", "phone"]
        : [...new Set([...Object.keys(block), ...Object.keys(fresh)])].filter(
            (key) => !["id", "type", "name", "show", "hideOn"].includes(key),
          );
    for (const key of reset) edit.set(id, key, fresh[key]);
  };
