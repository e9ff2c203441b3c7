/**
 * The flat program that a design is compiled to: static text, value, jump-if-rule.
 *
 * `Program` is a whole message, part by part. A `Writer` collects instructions and holes for live content; `resolve` fills the holes and resolves the jumps into
 * `Code`, which is run once per reader. `Slot` describes a value and how it is made safe for where it stands.
 */
export { type Direction, directionOf, directionOfWords } from "./direction";
export {
  absolute,
  broughtHref,
  collapse,
  completeHref,
  escapeHtml,
  isSafeHref,
  type Sink,
  unescapeHtml,
  written,
} from "./escape";
export {
  dateFormat,
  dateWords,
  listFormat,
  localeOf,
  moneyFormat,
  numberFormat,
  sumWords,
  yesNo,
} from "./formats";
export { shortenedToLines } from "./lines";
export {
  COUNTED_LINK,
  COUNTED_OPENING,
  type Code,
  type CountedLink,
  type Instruction,
  type Op,
  Pool,
  type Program,
  resolve,
  type Slot,
  type Variant,
  Writer,
} from "./program";
export { shortened } from "./shortened";
export { CELL, LINK_END, LINK_START, numberedMark, ROW } from "./text-marks";
