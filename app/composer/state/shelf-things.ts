/** What the shelf holds, and what comes of it in a design. */
import {
  type BlockTypeName,
  createBlock,
  ITEM_LOOKS,
  READY_LISTS,
  type ReadyList,
  readyList,
} from "~/core/blocks";
import { type Clipping, type ClippingPart, freshCopy, placedClipping } from "~/core/compose";
import { type Block, type Brand, equalWidths, type Row, type Section } from "~/core/email";
import type { Item, SourceKind } from "~/core/items";
import { newId } from "./store";

/** An item as it was found in a source. */
export interface FoundThing {
  source: string;
  item: Item;
}

/** What the shelf holds: block types, and columns and sections. */
export type ShelfThing =
  | { kind: "block"; type: BlockTypeName; items?: readonly FoundThing[]; ready?: ReadyList }
  | { kind: "row"; columns: number }
  | { kind: "section" }
  | { kind: ClippingPart; clipping: Clipping; linked: boolean };

/** A new block of social links has the brand's, where it has any. */
function branded(block: Block, { social = [] }: Brand): Block {
  if (block.type !== "social" || social.length === 0) return block;
  return { ...block, items: social.map((item, index) => ({ id: String(index + 1), ...item })) };
}

/** What is known of the sources there are. */
type Sources = readonly { id: string; kind: SourceKind }[];

/** A block of items as they are now, looking as those of their source do. */
function placed(found: readonly FoundThing[], sources: Sources): Block {
  const kind = sources.find(({ id }) => id === found[0]?.source)?.kind;
  return {
    ...createBlock("items", newId()),
    ...(kind && ITEM_LOOKS[kind]),
    across: Math.min(3, found.length),
    items: found.map((one) => ({ id: newId(), ...one })),
  } as Block;
}

/** A list that comes ready set, from the one source of its kind where there is but one. */
function readySet(name: ReadyList, sources: Sources): Block {
  const fitting = sources.filter(({ kind }) => kind === READY_LISTS[name].from);
  return {
    ...createBlock("picks", newId()),
    ...readyList(name),
    ...(fitting.length === 1 && { source: fitting[0].id }),
  } as Block;
}

export function make(
  thing: ShelfThing,
  { brand, sources }: { brand: Brand; sources: Sources },
): Block | Row | Section {
  if ("clipping" in thing)
    return thing.linked
      ? placedClipping(thing.clipping, newId(), true)
      : freshCopy(thing.kind, thing.clipping.node, newId);
  switch (thing.kind) {
    case "block": {
      if (thing.items) return placed(thing.items, sources);
      if (thing.ready) return readySet(thing.ready, sources);
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
