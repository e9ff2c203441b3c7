/**
 * The document: what a designer composes, as plain JSON with stable ids.
 *
 * `Email` is the envelope, the theme reference and sections › rows › columns › blocks; `Theme` and `Brand` are
 * what it takes its look and its sender from; `walk` and `findNode` find their way in it; `INLINE_KINDS` are the kinds
 * of things that stand in words.
 */

export { canonical, remembered, same, sharing } from "../values";
export { type CalendarEntry, calendarAddress, calendarEntry, calendarEntryOf, iCalendar } from "./calendar";
export {
  type Block,
  type BlockBase,
  BlockBaseSchema,
  type Border,
  BorderSchema,
  type Column,
  type Email,
  EmailSchema,
  type Envelope,
  equalWidths,
  type LinkRules,
  MOST_COLUMNS,
  OWN_SCHEMAS,
  type Padding,
  PaddingSchema,
  type Phone,
  type Row,
  SCHEMA_VERSION,
  type Section,
  SPACE,
  TEXT_PART,
  WIDTH,
} from "./document";
export { atStart, ENVELOPE_LINES, inSentence } from "./envelope";
export { PURPOSES, type Purpose, SEASONS, type Season } from "./filing";
export {
  type BrandFont,
  BrandFontSchema,
  brandFont,
  FONTS,
  FontStackSchema,
  fontStack,
  WEB_FONTS,
  type WebFont,
  webFontsOf,
} from "./fonts";
export {
  caseWordsOf,
  DEEPEST,
  type Either,
  eachPiece,
  type Inline,
  InlineSchema,
  inlineSigns,
  inlineText,
  isInline,
  kindOf,
  mapCaseWords,
  notTooDeep,
} from "./inline";
export { hrefOfMarks, type Mark, TOGGLES, type Toggle, type WordStyle, WordStyleSchema } from "./marks";
export { isItemList, valueAt, withValueAt } from "./paths";
export {
  type Align,
  AlignSchema,
  ColorSchema,
  IdSchema,
  ItemIdSchema,
  type Valign,
  ValignSchema,
} from "./primitives";
export {
  isRichDoc,
  type ListItem,
  type ListType,
  linesOf,
  mapLines,
  type Paragraph,
  paragraphOf,
  type RichDoc,
  RichDocSchema,
  type RichNode,
  richText,
  type Words,
  wordSigns,
} from "./rich";
export * from "./tags";
export {
  type Brand,
  BrandSchema,
  DEFAULT_THEME,
  FILL_ROLES,
  type Fill,
  FillSchema,
  fillColor,
  type HeadingLook,
  isFillRole,
  PLACEHOLDER_BRAND,
  type Theme,
  ThemeSchema,
} from "./theme";
export { THEME_PARTS, type ThemeField, themeBounds } from "./theme-fields";
export { themePairs } from "./theme-pairs";
export { proposedTheme } from "./theme-proposal";
export { resolveTheme, THEMES } from "./themes";
export type { SaidThere, Translated, Translations } from "./translations";
export {
  type AnyNode,
  blocksOf,
  CHILDREN,
  childIds,
  childIndex,
  childNodes,
  findNode,
  idsOf,
  type Kind,
  type Located,
  mapEmail,
  mapNodes,
  type Node,
  ownOf,
  pathTo,
  walk,
  walkIn,
  withChildren,
} from "./tree";
export { lineTyped, typedLine } from "./typed-line";
export { mapRawBlocks, type Raw, UnreadableDesign, upgraded } from "./upgrades";
