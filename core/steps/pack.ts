/** Steps for the wire and for keeping: without what the receiver, who has the document they were made on, knows anyway. */
import type { Email } from "../email";
import { Flat } from "./flat";
import { applyStep, type Packed, packStep, unpackStep } from "./kinds";
import type { Step } from "./step";

/** Packs steps for somebody who has the document they were made on. */
export function pack(steps: readonly Step[]): Packed[] {
  return steps.map(packStep);
}

/**
 * The steps again, and what they make of the document they were made on.
 * @throws StrayStep when they do not fit it
 */
export function unpack(base: Email, packed: readonly Packed[]): { steps: Step[]; email: Email } {
  const flat = new Flat(base);
  const steps = packed.map((one) => {
    const step = unpackStep(flat, one);
    applyStep(flat, step);
    return step;
  });
  return { steps, email: flat.toEmail() };
}

/** Does steps on the very document they were made on, which is faster than rebasing and keeps to the letter. */
export function replay(email: Email, steps: readonly Step[]): Email {
  const flat = new Flat(email);
  for (const step of steps) applyStep(flat, step);
  return flat.toEmail();
}
