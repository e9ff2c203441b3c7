/**
 * The block types, one folder each: what a block holds, how it comes from the shelf, its HTML and its text.
 *
 * `BLOCK_TYPES` is the registry, `parseEmail` reads a whole document at a border; what a block cannot be read as is
 * kept in an `unreadable` one.
 */

export type { AppointmentBlock } from "./appointment";
export { buttonHeight } from "./button";
export { type CodeBlock, cleanCode } from "./code";
export { CLOCK } from "./countdown";
export type { CouponBlock } from "./coupon";
export { filledBlock } from "./filled";
export type { FooterBlock } from "./footer";
export {
  grownAt,
  needsOf,
  picturesOf,
  placedLinksOf,
  propertiesOf,
  textsOf,
  unreadyIn,
  wordsOf,
} from "./found";
export type { HeadingBlock } from "./heading";
export type { HoursBlock } from "./hours";
export type { ImageSetBlock } from "./imageSet";
export type { ItemsBlock } from "./items";
export { ITEM_LOOKS, READY_LISTS, type ReadyList, readyList } from "./items/looks";
export {
  broughtUp,
  followedIn,
  listAsks,
  placedIn,
  placedOf,
  sourcesNeeded,
  sourcesOf,
  sourcesShown,
} from "./live";
export type { LogoBlock } from "./logo";
export { type OverlaidBlock, tallClass } from "./overlaid";
export { parseEmail, rereadEmail } from "./parse";
export { REFER_COUNT, REFER_DONE, REFER_NEXT, type ReferBlock } from "./refer";
export {
  BLOCK_TYPES,
  type BlockTypeName,
  blockTitle,
  blockType,
  createBlock,
  SHELF_GROUPS,
  type TypedBlock,
} from "./registry";
export { type SurveyBlock, scaleOf } from "./survey";
export {
  cellOf,
  cellPath,
  type TableBlock,
  type TableColumn,
  type TableRow,
  tableEdits,
  tableParts,
} from "./table";
export { shows } from "./type";
export { type UnreadableBlock, unreadable } from "./unreadable";
export type { VideoBlock } from "./video";
