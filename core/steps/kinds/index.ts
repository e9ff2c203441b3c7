/** The kinds of steps, each in a file of its own, and what can be done with steps of whichever kind. */
import { z } from "zod";
import type { Flat } from "../flat";
import type { Step } from "../step";
import { insertKind } from "./insert";
import type { Ground, StepKind } from "./kind";
import { moveKind } from "./move";
import { removeKind } from "./remove";
import { setKind } from "./set";

export { type Ground, StrayStep } from "./kind";

const PackedSchema = z.union([insertKind.schema, removeKind.schema, moveKind.schema, setKind.schema]);
/** A step as it is sent. */
export type Packed = z.infer<typeof PackedSchema>;
export const PackedStepsSchema = z.array(PackedSchema).max(20_000);

const KINDS = {
  insert: insertKind,
  remove: removeKind,
  move: moveKind,
  set: setKind,
  splice: setKind,
} as unknown as Record<Packed["op"], StepKind<Step, Packed>>;

/** Does a step on the very document it was made on. */
export const applyStep = (flat: Flat, step: Step): void => KINDS[step.op].apply(flat, step);

/** Does a step on a document that went on meanwhile. */
export const rebaseStep = (ground: Ground, step: Step): void => KINDS[step.op].rebase(ground, step);

export const packStep = (step: Step): Packed => KINDS[step.op].pack(step);

/** @throws StrayStep when it does not fit the document */
export const unpackStep = (flat: Flat, packed: Packed): Step => KINDS[packed.op].unpack(flat, packed);

/** The steps that take a list of steps back. */
export function invert(steps: readonly Step[]): Step[] {
  return steps.map((step) => KINDS[step.op].inverted(step)).reverse();
}

/** Two lists of steps as one: of a property set again and again, the first before and the last after. */
export function joinSteps(first: readonly Step[], second: readonly Step[]): Step[] {
  const joined = [...first];
  for (const step of second) {
    let merged: Step | null = null;
    // Steps that set something else may stand between; past any other nothing is merged.
    for (let at = joined.length - 1; at >= 0 && !merged; at--) {
      if (joined[at].op !== step.op) break;
      merged = KINDS[step.op].merge?.(joined[at], step) ?? null;
      if (merged) joined[at] = merged;
      else if (!KINDS[step.op].merge) break;
    }
    if (!merged) joined.push(step);
  }
  return joined;
}
