/**
 * What blocks are written with: the HTML of words, pictures, columns and links, made for mail programs.
 *
 * `RenderContext` is what everything here is given to write into; `ink`, `ground` and `face` give colours that can be
 * read where they stand, in light and in dark; `lineHtml`, `proseHtml` and `writeInline` write words, `columnsHtml` lays
 * things side by side, `targetOf` says where a link leads.
 */

export { backdropCell, vmlBackdrop } from "./backdrop";
export { type ColumnCell, columnsHtml, STACKED } from "./columns";
export type { Annotated, Ground, Level, RenderContext } from "./context";
export { fontFaces } from "./font-faces";
export { GLYPH_NAMES, GLYPHS, type GlyphName, glyphImg, glyphSvg } from "./glyphs";
export { css, LONG_WORDS, spoken, styleAttribute, TABLE, wordsMark } from "./html";
export { linkLook, TOGGLE_ELEMENTS, writeInline } from "./inline";
export { numbered, withItemIds } from "./items";
export { headingLook, lineHtml, lineStyle, smallWords } from "./line";
export {
  GlyphSchema,
  linkRowHtml,
  linkText,
  type RowLink,
  rowHtml,
} from "./link-row";
export { phrases } from "./phrases";
export {
  linkAround,
  NO_PICTURE,
  type PictureParts,
  pictureHtml,
  pictureText,
  waitingPicture,
} from "./picture";
export { firstProse, firstWords, proseHtml, proseText } from "./prose";
export { within } from "./room";
export { paddingOf, sideOf, tableAt } from "./sides";
export {
  attributeOf,
  encodeTyped,
  hrefOf,
  leads,
  type PlacedLink,
  targetOf,
  textTarget,
} from "./targets";
export {
  classAttribute,
  darkFace,
  darkGround,
  darkInk,
  edge,
  face,
  filled,
  fixedGround,
  ground,
  ink,
  lightInk,
  roleCss,
  type Tone,
  toneCss,
} from "./tone";
export { epochOf, LocalTimeSchema, timeWords } from "./when";
