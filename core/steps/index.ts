/**
 * Changes as data: what undo, saving, versions, comparing and the work of several people in one design are made of.
 *
 * `difference` finds the steps between two documents, `invert` takes them back, `rebase` does them on a document that
 * went on meanwhile and says where they contradict it; `pack` makes them small for the wire.
 */
export { difference, longestRising } from "./difference";
export { fingerprint } from "./fingerprint";
export { Flat } from "./flat";
export { isWords } from "./merge-value";
export { mergeWords } from "./merge-words";
export { type Packed, PackedStepsSchema, pack, replay, StrayStep, unpack } from "./pack";
export { apply, bothReordered, type Clash, merge, type Rebased, rebase, spreadTo100 } from "./rebase";
export { invert, inverted, type Spot, type Step } from "./step";
