/**
 * The document: what a designer composes, as plain JSON with stable ids.
 *
 * `Email` is the envelope, the theme reference and sections › rows › columns › blocks; `Theme` and `Brand` are
 * what it takes its look and its sender from; `walk` and `findNode` find their way in it.
 */
export {
  type Block,
  type BlockBase,
  BlockBaseSchema,
  type Border,
  ColorSchema,
  type Column,
  type Email,
  EmailSchema,
  type Envelope,
  equalWidths,
  type LinkRules,
  type Padding,
  PaddingSchema,
  type Phone,
  type Row,
  SCHEMA_VERSION,
  type Section,
  TEXT_PART,
  type TextPart,
} from "./document";
export { FONTS, fontStack } from "./fonts";
export { valueAt, withValueAt } from "./paths";
export {
  type Inline,
  InlineSchema,
  inlineText,
  type Mark,
  type MergeTag,
  MergeTagSchema,
  type Paragraph,
  paragraphOf,
  type RichDoc,
  RichDocSchema,
  type RichNode,
  richText,
  TAG_FORMATS,
  type TagFormat,
  type WordStyle,
  WordStyleSchema,
} from "./rich";
export {
  type Brand,
  BrandSchema,
  DEFAULT_THEME,
  resolveTheme,
  THEMES,
  type Theme,
  ThemeSchema,
} from "./theme";
export { findNode, idsOf, type Kind, type Located, type Node, pathTo, walk } from "./tree";
export { mapWords, type WordPlace, wordPlaces } from "./words";
