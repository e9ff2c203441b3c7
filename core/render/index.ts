/**
 * From a document to a flat program, once per design.
 *
 * `compile` makes the whole message's `Program`; `compileFrame` and `compileBlock` make the same HTML in pieces for
 * the canvas, with marks; `canvasCss` is the message's style sheet without its media queries.
 */

export { blockText } from "./block-text";
export {
  compileBlock,
  compileFrame,
  everySurroundings,
  type Piece,
  type Standing,
  type Surroundings,
  surroundingsOf,
} from "./canvas";
export { type CompileOptions, compile, knownIn } from "./compile";
export { canvasCss } from "./css";
export { enlargedPictures } from "./enlarged";
export { groundAt } from "./ground";
export { headingLevels } from "./levels";
export { compilePieces } from "./parts";
