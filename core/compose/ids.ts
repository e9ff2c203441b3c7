import { type AnyNode, type Kind, mapNodes } from "../email";

/** Makes ids that are new to the document. Passed in, so that core/ needs no randomness. */
export type IdMaker = () => string;

/** A copy of a node with new ids for it and all nodes in it. Items within blocks keep theirs, which are the block's own. */
export function freshCopy<T extends AnyNode>(kind: Kind, node: T, newId: IdMaker): T {
  return mapNodes(kind, node, (one) => ({ ...one, id: newId() }));
}
