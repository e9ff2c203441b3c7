/** What every change of a document is made of: small steps as plain data, addressed by id. */
import type { AnyNode, Kind } from "../email";

/** A place among the children of a node (of the email itself for `null`), named by its neighbours. */
export interface Spot {
  parent: string | null;
  /** The sibling before it; null at the beginning. */
  after: string | null;
  /** The sibling behind it, in case the one before has gone; null at the end. */
  before: string | null;
}

/** A node comes, with all that is in it. */
export interface InsertStep {
  op: "insert";
  kind: Kind;
  at: Spot;
  node: AnyNode;
}

/** A node goes, with all that is in it. */
export interface RemoveStep {
  op: "remove";
  kind: Kind;
  at: Spot;
  node: AnyNode;
}

/** A node goes to another place. */
export interface MoveStep {
  op: "move";
  id: string;
  from: Spot;
  to: Spot;
}

/** A property of a node (of the email itself for `null`) becomes another; `undefined` is one that is not there. */
export interface SetStep {
  op: "set";
  id: string | null;
  /** A path as in `valueAt`: words stand at their place's path, the subject at `envelope/subject`. */
  path: string;
  before: unknown;
  after: unknown;
}

/** One step. Steps of a list are done one after the other, each on what the one before it left. */
export type Step = InsertStep | RemoveStep | MoveStep | SetStep;

/** Where steps contradict what somebody else did meanwhile. The document has what the other one did. */
export interface Clash {
  /** `changed`: both changed the same; `gone`: what I changed is no longer there; `kept`: I took out what they changed. */
  reason: "changed" | "gone" | "kept" | "moved";
  /** The node; null for the email itself. */
  id: string | null;
  /** Which of its properties; empty when the node as a whole. */
  path: string;
  mine: unknown;
  theirs: unknown;
}
