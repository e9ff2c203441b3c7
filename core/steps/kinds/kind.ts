import type { z } from "zod";
import type { Flat } from "../flat";
import type { Clash, Step } from "../step";

/** A document that went on meanwhile, while steps are done on it. */
export interface Ground {
  flat: Flat;
  /** What contradicts it, added to by each step. */
  clashes: Clash[];
  /** The nodes that were touched, to be brought in order afterwards. */
  touched: Set<string>;
}

/** All that can be done with steps of one kind: `S` as the program has it, `P` as it is sent. */
export interface StepKind<S extends Step, P extends { op: string }> {
  /** Does it on the very document it was made on. */
  apply(flat: Flat, step: S): void;
  /** The step that takes it back. */
  inverted(step: S): Step;
  /** Does it on a document that went on meanwhile; what contradicts it is reported and left as it is there. */
  rebase(ground: Ground, step: S): void;
  /** One step for two that follow each other, whatever stands between them is about something else; null for two. */
  merge?(first: S, second: S): S | null;
  /** What is sent of it. */
  schema: z.ZodType<P>;
  pack(step: S): P;
  /** @throws StrayStep when it does not fit the document */
  unpack(flat: Flat, packed: P): S;
}

/** Steps that do not belong to the document they are unpacked on. */
export class StrayStep extends Error {
  override name = "StrayStep";
}

/** @throws StrayStep when there is no such node */
export function mustHave(flat: Flat, id: string | null): void {
  if (id !== null && !flat.has(id)) throw new StrayStep(`There is no part ${id}.`);
}
