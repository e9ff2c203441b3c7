import { asRead, type BlockBase, type Raw } from "../email";
import { appointment } from "./appointment";
import { beside } from "./beside";
import { boxed } from "./boxed";
import { button } from "./button";
import { captioned } from "./captioned";
import { code } from "./code";
import { countdown } from "./countdown";
import { coupon } from "./coupon";
import { divider } from "./divider";
import { footer } from "./footer";
import { heading } from "./heading";
import { hours } from "./hours";
import { icons } from "./icons";
import { image } from "./image";
import { imageSet } from "./imageSet";
import { items } from "./items";
import { logo } from "./logo";
import { menu } from "./menu";
import { overlaid } from "./overlaid";
import { pair } from "./pair";
import { picks } from "./picks";
import { fromArticles } from "./picks/former";
import { quote } from "./quote";
import { refer } from "./refer";
import { share } from "./share";
import { signature } from "./signature";
import { social } from "./social";
import { spacer } from "./spacer";
import { survey } from "./survey";
import { table } from "./table";
import { text } from "./text";
import type { BlockType, ShelfGroup } from "./type";
import { unreadable } from "./unreadable";
import { video } from "./video";

/** All block types, in the order of the shelf. */
export const BLOCK_TYPES = {
  heading,
  text,
  boxed,
  quote,
  icons,
  table,
  hours,
  signature,
  image,
  captioned,
  overlaid,
  beside,
  imageSet,
  video,
  logo,
  button,
  pair,
  menu,
  social,
  share,
  refer,
  survey,
  countdown,
  appointment,
  items,
  picks,
  coupon,
  divider,
  spacer,
  code,
  footer,
};
/** Types there were: how a block of one is brought to another, whatever it was written with, and to which schema. */
export const FORMER_TYPES: Readonly<Record<string, { schema: number; bring(raw: Raw): Raw }>> = {
  articles: { schema: 3, bring: fromArticles },
};
export type BlockTypeName = keyof typeof BLOCK_TYPES;
/** A block of a type, with its properties. */
export type TypedBlock<Name extends BlockTypeName> = ReturnType<(typeof BLOCK_TYPES)[Name]["create"]>;

export const SHELF_GROUPS: readonly { group: ShelfGroup; label: string }[] = [
  { group: "words", label: "Words" },
  { group: "pictures", label: "Pictures" },
  { group: "actions", label: "Actions" },
  { group: "live", label: "Live" },
  { group: "layout", label: "Layout" },
];

/** The type of a block, or undefined when there is none of that name. */
export function blockType(name: string): BlockType<BlockBase> | undefined {
  // Each type's functions take that type's blocks, and `name` picks the type the block says it is.
  if (Object.hasOwn(BLOCK_TYPES, name))
    return BLOCK_TYPES[name as BlockTypeName] as unknown as BlockType<BlockBase>;
  return name === unreadable.type ? (unreadable as unknown as BlockType<BlockBase>) : undefined;
}

/** A block as it comes from the shelf. */
export function createBlock<Name extends BlockTypeName>(name: Name, id: string): TypedBlock<Name> {
  return BLOCK_TYPES[name].create(id) as TypedBlock<Name>;
}

/** The block's own name, or what its content calls it. */
export function blockTitle(block: BlockBase): string {
  return block.name || asRead(blockType(block.type)?.title(block) ?? `Unknown block (${block.type})`);
}
