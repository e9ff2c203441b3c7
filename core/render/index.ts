/**
 * From a document to a flat program, once per design.
 *
 * `compile` makes the whole message's `Program`; `compileFrame` and `compileBlock` make the same HTML in pieces for
 * the canvas, with marks; `canvasCss` is the message's style sheet without its media queries.
 */

export {
  blockText,
  type CompileOptions,
  compile,
  compileBlock,
  compileFrame,
  knownIn,
  type Piece,
  type Place,
} from "./compile";
export { canvasCss, fontFaces } from "./css";
export { groundAt } from "./ground";
export { headingLevels } from "./levels";
export { compilePieces, type TextPiece } from "./parts";
