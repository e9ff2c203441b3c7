/**
 * The flat program that a design is compiled to: static text, value, jump-if-rule.
 *
 * A `Writer` collects instructions and holes for live content; `link` fills the holes and resolves the jumps into
 * `Code`, which is run once per reader. `Slot` describes a value and how it is made safe for where it stands.
 */
export { collapse, escapeHtml, isSafeHref, safeHref } from "./escape";
export { type Code, type Instruction, link, type Op, type Sink, type Slot, Tables, Writer } from "./program";
