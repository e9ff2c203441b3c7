/**
 * Steps for the wire and for keeping: without what the receiver, who has the document they were made on, knows anyway.
 * Of a value that changed a little only the changed run of its text is sent.
 */
import { z } from "zod";
import { type AnyNode, CHILDREN, canonical, type Email, type Kind, valueAt, withValueAt } from "../email";
import { Flat } from "./flat";
import type { Step } from "./step";

const SpotSchema = z.object({
  parent: z.string().nullable(),
  after: z.string().nullable(),
  before: z.string().nullable(),
});

const PackedSchema = z.discriminatedUnion("op", [
  z.object({
    op: z.literal("insert"),
    kind: z.enum(["section", "row", "column", "block"]),
    at: SpotSchema,
    node: z.looseObject({ id: z.string() }),
  }),
  z.object({ op: z.literal("remove"), id: z.string() }),
  z.object({ op: z.literal("move"), id: z.string(), to: SpotSchema }),
  z.object({
    op: z.literal("set"),
    id: z.string().nullable(),
    path: z.string(),
    after: z.unknown().optional(),
  }),
  z.object({
    op: z.literal("splice"),
    id: z.string().nullable(),
    path: z.string(),
    /** Of the value's canonical text: from where, how much goes, and what comes; in UTF-16 units. */
    from: z.number().int().min(0),
    cut: z.number().int().min(0),
    put: z.string(),
  }),
]);
/** A step as it is sent. */
export type Packed = z.infer<typeof PackedSchema>;
export const PackedStepsSchema = z.array(PackedSchema).max(20_000);

/** Steps that do not belong to the document they are unpacked on. */
export class StrayStep extends Error {
  override name = "StrayStep";
}

/** Packs steps for somebody who has the document they were made on. */
export function pack(steps: readonly Step[]): Packed[] {
  return steps.map(packOne);
}

function packOne(step: Step): Packed {
  switch (step.op) {
    case "insert":
      return { op: "insert", kind: step.kind, at: step.at, node: step.node as { id: string } };
    case "remove":
      return { op: "remove", id: step.node.id };
    case "move":
      return { op: "move", id: step.id, to: step.to };
    case "set":
      return packSet(step.id, step.path, step.before, step.after);
  }
}

function packSet(id: string | null, path: string, before: unknown, after: unknown): Packed {
  const whole: Packed = { op: "set", id, path, after };
  if (before === undefined || after === undefined) return whole;
  const [old, fresh] = [canonical(before), canonical(after)];
  let from = 0;
  while (from < old.length && from < fresh.length && old.charCodeAt(from) === fresh.charCodeAt(from)) from++;
  let tail = 0;
  while (
    tail < old.length - from &&
    tail < fresh.length - from &&
    old.charCodeAt(old.length - 1 - tail) === fresh.charCodeAt(fresh.length - 1 - tail)
  )
    tail++;
  const put = fresh.slice(from, fresh.length - tail);
  if (put.length + 40 >= fresh.length) return whole;
  return { op: "splice", id, path, from, cut: old.length - tail - from, put };
}

/**
 * The steps again, on the document they were made on.
 * @throws StrayStep when they do not fit it
 */
export function unpack(base: Email, packed: readonly Packed[]): Step[] {
  const flat = new Flat(base);
  return packed.map((one): Step => {
    const step = unpackOne(flat, one);
    doExactly(flat, step);
    return step;
  });
}

function unpackOne(flat: Flat, one: Packed): Step {
  const known = (id: string | null) => {
    if (id !== null && !flat.has(id)) throw new StrayStep(`There is no part ${id}.`);
  };
  switch (one.op) {
    case "insert":
      if (flat.has(one.node.id) || !flat.takes(one.at.parent, one.kind))
        throw new StrayStep(`${one.node.id} cannot be put there.`);
      return { op: "insert", kind: one.kind, at: one.at, node: one.node as unknown as AnyNode };
    case "remove":
      known(one.id);
      return {
        op: "remove",
        kind: flat.kind(one.id) as Kind,
        at: flat.spot(one.id),
        node: flat.node(one.id),
      };
    case "move":
      known(one.id);
      if (!flat.takes(one.to.parent, flat.kind(one.id) as Kind))
        throw new StrayStep(`${one.id} cannot be moved there.`);
      return { op: "move", id: one.id, from: flat.spot(one.id), to: one.to };
    case "set":
    case "splice": {
      known(one.id);
      if (/(^|\/)id$/.test(one.path) || CHILDREN[flat.kind(one.id)]?.list === one.path)
        throw new StrayStep(`“${one.path}” cannot be set.`);
      const before = valueAt(flat.ownOf(one.id), one.path);
      const after = one.op === "set" ? one.after : spliced(before, one);
      return { op: "set", id: one.id, path: one.path, before, after };
    }
  }
}

function spliced(before: unknown, { from, cut, put }: { from: number; cut: number; put: string }): unknown {
  const text = before === undefined ? "" : canonical(before);
  try {
    return JSON.parse(text.slice(0, from) + put + text.slice(from + cut));
  } catch {
    throw new StrayStep("A change does not fit what it changes.");
  }
}

/** Does a step on the very document it was made on. */
function doExactly(flat: Flat, step: Step): void {
  if (step.op === "insert") flat.insert(step.kind, step.node, step.at);
  else if (step.op === "remove") flat.remove(step.node.id);
  else if (step.op === "move") flat.move(step.id, step.to);
  else flat.setOwn(step.id, withValueAt(flat.ownOf(step.id), step.path, step.after));
}

/** Does steps on the very document they were made on, which is faster than rebasing and keeps to the letter. */
export function replay(email: Email, steps: readonly Step[]): Email {
  const flat = new Flat(email);
  for (const step of steps) doExactly(flat, step);
  return flat.toEmail();
}
