import { asRead, type BlockBase } from "../email";
import { type AppointmentBlock, appointment } from "./appointment";
import { type ArticlesBlock, articles } from "./articles";
import { type BesideBlock, beside } from "./beside";
import { type BoxedBlock, boxed } from "./boxed";
import { type ButtonBlock, button } from "./button";
import { type CaptionedBlock, captioned } from "./captioned";
import { type CodeBlock, code } from "./code";
import { type CountdownBlock, countdown } from "./countdown";
import { type CouponBlock, coupon } from "./coupon";
import { type DividerBlock, divider } from "./divider";
import { type FooterBlock, footer } from "./footer";
import { type HeadingBlock, heading } from "./heading";
import { type IconsBlock, icons } from "./icons";
import { type ImageBlock, image } from "./image";
import { type ImageSetBlock, imageSet } from "./imageSet";
import { type LogoBlock, logo } from "./logo";
import { type MenuBlock, menu } from "./menu";
import { type OverlaidBlock, overlaid } from "./overlaid";
import { type PairBlock, pair } from "./pair";
import { type QuoteBlock, quote } from "./quote";
import { type ReferBlock, refer } from "./refer";
import { type ShareBlock, share } from "./share";
import { type SignatureBlock, signature } from "./signature";
import { type SocialBlock, social } from "./social";
import { type SpacerBlock, spacer } from "./spacer";
import { type SurveyBlock, survey } from "./survey";
import { type TableBlock, table } from "./table";
import { type TextBlock, text } from "./text";
import type { BlockType, ShelfGroup } from "./type";
import { unreadable } from "./unreadable";
import { type VideoBlock, video } from "./video";

export type KnownBlock =
  | ArticlesBlock
  | ButtonBlock
  | BesideBlock
  | BoxedBlock
  | CaptionedBlock
  | MenuBlock
  | PairBlock
  | QuoteBlock
  | DividerBlock
  | FooterBlock
  | HeadingBlock
  | ImageBlock
  | SpacerBlock
  | TextBlock
  | AppointmentBlock
  | CodeBlock
  | CountdownBlock
  | CouponBlock
  | IconsBlock
  | ImageSetBlock
  | LogoBlock
  | OverlaidBlock
  | ReferBlock
  | ShareBlock
  | SignatureBlock
  | SocialBlock
  | SurveyBlock
  | TableBlock
  | VideoBlock;
export type BlockTypeName = KnownBlock["type"];
export type TypedBlock<Name extends BlockTypeName> = Extract<KnownBlock, { type: Name }>;

/** All block types. A type that is missing here does not compile. */
export const BLOCK_TYPES: { [Name in BlockTypeName]: BlockType<TypedBlock<Name>> } = {
  heading,
  text,
  boxed,
  quote,
  icons,
  table,
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
  articles,
  coupon,
  divider,
  spacer,
  code,
  footer,
};

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
  return BLOCK_TYPES[name].create(id);
}

/** The block's own name, or what its content calls it. */
export function blockTitle(block: BlockBase): string {
  return block.name || asRead(blockType(block.type)?.title(block) ?? `Unknown block (${block.type})`);
}
