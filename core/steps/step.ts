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

/** The step that takes a step back. */
export function inverted(step: Step): Step {
  switch (step.op) {
    case "insert":
      return { ...step, op: "remove" };
    case "remove":
      return { ...step, op: "insert" };
    case "move":
      return { ...step, from: step.to, to: step.from };
    case "set":
      return { ...step, before: step.after, after: step.before };
  }
}

/** The steps that take a list of steps back. */
export function invert(steps: readonly Step[]): Step[] {
  return steps.map(inverted).reverse();
}
