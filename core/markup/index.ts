/**
 * What blocks are written with: the HTML of words, pictures, columns and links, made for mail programs.
 *
 * `RenderContext` is what everything here is given to write into; `writeInline` and `proseHtml` write words,
 * `columnsHtml` lays things side by side, `targetOf` says where a link leads.
 */
export { type Backdrop, backdropCell, vmlBackdrop } from "./backdrop";
export { type ColumnCell, columnsHtml, type Surroundings } from "./columns";
export type { RenderContext } from "./context";
export { GLYPH_NAMES, type GlyphName, glyphImg, glyphSvg } from "./glyphs";
export { absolute, css, editMark, gapShares, styleAttribute, TABLE } from "./html";
export { TOGGLE_ELEMENTS, writeInline } from "./inline";
export { itemShape, numbered, withItemIds } from "./items";
export { GlyphSchema, linkRowHtml, linkRowShape, linkText, type RowLink } from "./link-row";
export {
  NO_PICTURE,
  type PictureParts,
  pictureHtml,
  pictureLinks,
  pictureShape,
  pictureText,
  pictureUnready,
  smallWords,
  waitingPicture,
} from "./picture";
export { firstProse, firstWords, proseHtml, proseText } from "./prose";
export { hrefOf, type PlacedLink, targetOf, textTarget } from "./targets";
export { epochOf, LocalTimeSchema, timeWords } from "./when";
