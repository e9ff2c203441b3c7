/**
 * Colours as numbers: how they stand out from each other, how light they look, and what dark modes make of them.
 *
 * `contrast` is that of WCAG, `readableOn` moves a colour until it can be read, `invertedGround` and `invertedText` say
 * what mail programs that invert colours show. All colours are written `#RRGGBB`.
 */
export { contrast, DISTINCT, over, READABLE } from "./contrast";
export { type Inversion, invertedGround, invertedText } from "./inversion";
export { darkenedFor, differenceOf, lightnessOf, readableOn, withLightness } from "./lightness";
export { colourfulness, coloursOf, type PictureColour } from "./palette";
