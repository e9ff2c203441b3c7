/**
 * The block types, one folder each: what a block holds, how it comes from the shelf, its HTML and its text.
 *
 * `BLOCK_TYPES` is the registry, `parseEmail` reads a whole document at a border, `RenderContext` is what a block
 * is given to write itself.
 */

export type { AppointmentBlock } from "./appointment";
export { calendarEntry, iCalendar } from "./appointment/calendar";
export type { ArticlesBlock } from "./articles";
export { backdropCell, vmlBackdrop } from "./backdrop";
export type { BesideBlock } from "./beside";
export type { BoxedBlock } from "./boxed";
export type { ButtonBlock } from "./button";
export type { CaptionedBlock } from "./captioned";
export { type CodeBlock, cleanCode } from "./code";
export { type CleanHtml, cleanHtml } from "./code/clean";
export { type ColumnCell, columnsHtml, type Surroundings } from "./columns";
export type { RenderContext } from "./context";
export { CLOCK, type CountdownBlock } from "./countdown";
export type { DividerBlock } from "./divider";
export type { FooterBlock } from "./footer";
export { GLYPH_NAMES, type GlyphName, glyphSvg } from "./glyphs";
export type { HeadingBlock } from "./heading";
export { css, gapShares, styleAttribute, TABLE } from "./html";
export type { IconsBlock } from "./icons";
export type { ImageBlock } from "./image";
export type { ImageSetBlock } from "./imageSet";
export { writeInline } from "./inline";
export type { LogoBlock } from "./logo";
export type { MenuBlock } from "./menu";
export type { OverlaidBlock } from "./overlaid";
export type { PairBlock } from "./pair";
export type { PictureParts } from "./picture";
export type { QuoteBlock } from "./quote";
export type { ReferBlock } from "./refer";
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
export type { ShareBlock } from "./share";
export type { SignatureBlock } from "./signature";
export type { SocialBlock } from "./social";
export type { SpacerBlock } from "./spacer";
export { type SurveyBlock, scaleOf } from "./survey";
export { type TableBlock, tableEdits } from "./table";
export type { TextBlock } from "./text";
export { type BlockType, type ShelfGroup, shows } from "./type";
export type { VideoBlock } from "./video";
export { epochOf } from "./when";
