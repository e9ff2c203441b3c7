/**
 * The block types, one folder each: what a block holds, how it comes from the shelf, its HTML and its text.
 *
 * `BLOCK_TYPES` is the registry, `parseEmail` reads a whole document at a border; what a block cannot be read as is
 * kept in an `unreadable` one.
 */

export type { AppointmentBlock } from "./appointment";
export { calendarEntry, iCalendar } from "./appointment/calendar";
export type { ArticlesBlock } from "./articles";
export type { BesideBlock } from "./beside";
export type { BoxedBlock } from "./boxed";
export type { ButtonBlock } from "./button";
export type { CaptionedBlock } from "./captioned";
export { type CodeBlock, cleanCode } from "./code";
export { type CleanHtml, cleanHtml } from "./code/clean";
export { CLOCK, type CountdownBlock } from "./countdown";
export type { CouponBlock } from "./coupon";
export type { DividerBlock } from "./divider";
export { filledBlock } from "./filled";
export type { FooterBlock } from "./footer";
export {
  grownAt,
  needsOf,
  type PlacedWords,
  picturesOf,
  placedLinksOf,
  propertiesOf,
  textsOf,
  unreadyIn,
  wordsOf,
} from "./found";
export type { HeadingBlock } from "./heading";
export type { HoursBlock } from "./hours";
export type { IconsBlock } from "./icons";
export type { ImageBlock } from "./image";
export type { ImageSetBlock } from "./imageSet";
export type { LogoBlock } from "./logo";
export type { MenuBlock } from "./menu";
export { type OverlaidBlock, tallClass } from "./overlaid";
export type { PairBlock } from "./pair";
export { parseBlock, parseEmail, rereadEmail } from "./parse";
export type { QuoteBlock } from "./quote";
export { REFER_COUNT, REFER_DONE, REFER_NEXT, type ReferBlock } from "./refer";
export {
  BLOCK_TYPES,
  type BlockTypeName,
  blockTitle,
  blockType,
  createBlock,
  type KnownBlock,
  SHELF_GROUPS,
  type TypedBlock,
} from "./registry";
export type { ShareBlock } from "./share";
export type { SignatureBlock } from "./signature";
export type { SocialBlock } from "./social";
export type { SpacerBlock } from "./spacer";
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
export type { TextBlock } from "./text";
export { type BlockType, type ShelfGroup, shows } from "./type";
export { type UnreadableBlock, unreadable } from "./unreadable";
export type { VideoBlock } from "./video";
