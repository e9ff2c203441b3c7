/**
 * Changes as data: what undo, saving, versions, comparing and the work of several people in one design are made of.
 *
 * An `Edit` writes down what is done to a document as steps; `difference` finds them between two documents, `invert`
 * takes them back, `rebase` does them on a document that went on meanwhile and says where they contradict it; `pack`
 * makes them small for the wire.
 */
export { difference, longestRising } from "./difference";
export { Edit } from "./edit";
export { fingerprint } from "./fingerprint";
export { Flat } from "./flat";
export { invert, joinSteps, type Packed, PackedStepsSchema, StrayStep } from "./kinds";
export { mergeWords } from "./merge-words";
export { pack, replay, unpack } from "./pack";
export { apply, bothReordered, merge, rebase, spreadTo100 } from "./rebase";
export type { Clash, Spot, Step } from "./step";
