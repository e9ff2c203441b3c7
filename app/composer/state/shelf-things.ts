/** What the shelf holds, and what comes of it in a design. */
import { type BlockTypeName, createBlock } from "~/core/blocks";
import { type Clipping, type ClippingPart, freshCopy, placedClipping } from "~/core/compose";
import { type Block, type Brand, equalWidths, type Row, type Section } from "~/core/email";
import { newId } from "./store";

/** What the shelf holds: block types, and columns and sections. */
export type ShelfThing =
  | { kind: "block"; type: BlockTypeName }
  | { kind: "row"; columns: number }
  | { kind: "section" }
  | { kind: ClippingPart; clipping: Clipping; linked: boolean };

/** A new block of social links has the brand's, where it has any. */
function branded(block: Block, { social = [] }: Brand): Block {
  if (block.type !== "social" || social.length === 0) return block;
  return { ...block, items: social.map((item, index) => ({ id: String(index + 1), ...item })) };
}

export function make(thing: ShelfThing, brand: Brand): Block | Row | Section {
  if ("clipping" in thing)
    return thing.linked
      ? placedClipping(thing.clipping, newId(), true)
      : freshCopy(thing.kind, thing.clipping.node, newId);
  switch (thing.kind) {
    case "block": {
      const block = branded(createBlock(thing.type, newId()) as Block, brand);
      // Whoever composes thinks in the time of their own clock.
      return "zone" in block ? { ...block, zone: Intl.DateTimeFormat().resolvedOptions().timeZone } : block;
    }
    case "row":
      return {
        id: newId(),
        columns: equalWidths(thing.columns).map((width) => ({ id: newId(), width, blocks: [] })),
      };
    case "section":
      return { id: newId(), rows: [{ id: newId(), columns: [{ id: newId(), width: 100, blocks: [] }] }] };
  }
}
