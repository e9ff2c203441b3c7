/**
 * The block types, one folder each: what a block holds, how it comes from the shelf, its HTML and its text.
 *
 * `BLOCK_TYPES` is the registry, `parseEmail` reads a whole document at a border, `RenderContext` is what a block
 * is given to write itself.
 */

export type { ArticlesBlock } from "./articles";
export type { BesideBlock } from "./beside";
export type { BoxedBlock } from "./boxed";
export type { ButtonBlock } from "./button";
export type { CaptionedBlock } from "./captioned";
export { type ColumnCell, columnsHtml, type Surroundings } from "./columns";
export type { RenderContext } from "./context";
export type { DividerBlock } from "./divider";
export type { FooterBlock } from "./footer";
export type { HeadingBlock } from "./heading";
export { css, gapShares, styleAttribute, TABLE } from "./html";
export type { ImageBlock } from "./image";
export { writeInline } from "./inline";
export type { MenuBlock } from "./menu";
export type { PairBlock } from "./pair";
export type { PictureParts } from "./picture";
export type { QuoteBlock } from "./quote";
export {
  BLOCK_TYPES,
  type BlockTypeName,
  blockTitle,
  blockType,
  createBlock,
  type KnownBlock,
  parseEmail,
  SHELF_GROUPS,
  type TypedBlock,
} from "./registry";
export type { SpacerBlock } from "./spacer";
export type { TextBlock } from "./text";
export type { BlockType, ShelfGroup } from "./type";
