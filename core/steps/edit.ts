import { type AnyNode, type Email, type Kind, type Located, same } from "../email";
import { difference, setSteps } from "./difference";
import { Flat } from "./flat";
import { applyStep, joinSteps } from "./kinds";
import type { Step } from "./step";

/** A document that is being changed: each change is done at once, and written down as a step. */
export class Edit {
  private readonly flat: Flat;
  private done: Step[] = [];

  constructor(email: Email) {
    this.flat = new Flat(email);
  }

  /** The document as it is now. */
  get email(): Email {
    return this.flat.toEmail();
  }

  /** What was done, in order; what was undone on the way is not among it. */
  get steps(): Step[] {
    return this.done.filter((step) => step.op !== "set" || !same(step.before, step.after));
  }

  /** The node with that id as it is now, and where it stands. */
  find(id: string): Located | undefined {
    return this.flat.located(id);
  }

  /** What a node has besides its children; the email itself for `null`. */
  own(id: string | null): Readonly<Record<string, unknown>> {
    return this.flat.ownOf(id);
  }

  private do(steps: readonly Step[]): void {
    for (const step of steps) applyStep(this.flat, step);
    this.done = joinSteps(this.done, steps);
  }

  /** Puts a node in at an index among the children of another; of the email itself for `null`. */
  insert(kind: Kind, node: AnyNode, parent: string | null, index: number): void {
    this.do([{ op: "insert", kind, node, at: this.flat.spotAt(parent, index) }]);
  }

  /** Takes a node out, with all that is in it. */
  remove(id: string): void {
    const kind = this.flat.kind(id) as Kind;
    this.do([{ op: "remove", kind, node: this.flat.node(id), at: this.flat.spot(id) }]);
  }

  /** Moves a node to an index among the children of another, counted without the node itself. */
  move(id: string, parent: string | null, index: number): void {
    const from = this.flat.spot(id);
    const to = this.flat.spotAt(parent, index, id);
    if (from.parent === to.parent && from.after === to.after) return;
    this.do([{ op: "move", id, from, to }]);
  }

  /** Sets a property of a node, or of the email itself for `null`; `undefined` takes it away. */
  set(id: string | null, key: string, value: unknown): void {
    this.do(setSteps(id, key, this.own(id)[key], value));
  }

  /** Makes it another version of the same document, by as little as leads there. */
  become(email: Email): void {
    this.do(difference(this.email, email));
  }
}
