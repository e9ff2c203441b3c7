/**
 * Pictures as they are kept and changed: an original that stays as it is, and a list of steps that make of it what is
 * shown. `PictureStep` is one of them, `preview` shows what they make as the browser draws it, `keptSize`, `drawnOver`
 * and the colour maps say the same to whoever works it out for good; `variantAddress` is what messages fetch.
 */
export { draftAlts } from "./alt";
export { type ColourMap, lightMap, sharpenKernel, TONES, toneMap } from "./colour";
export {
  cropBox,
  focusOf,
  GREATEST_KEPT,
  keptSize,
  matWidth,
  type Size,
  sizeAfter,
  straightened,
  turned,
} from "./geometry";
export { drawnOver, framePath, type Outline, shapePath, svgOf, thinned, wordsBox } from "./overlay";
export { preview } from "./preview";
export { CUT_RATIOS, type CutRatio, shapedAddress, shapedBox } from "./ratios";
export {
  doesNothing,
  newStep,
  type PictureStep,
  PictureStepsSchema,
  RATIOS,
  SHAPES,
  SHOWN,
  SINGLE,
  type StepKind,
  type StepOf,
  stepWords,
  toPx,
} from "./steps";
export { isVariantWidth, pictureFileOf, variantAddress, variantWidth } from "./variants";
