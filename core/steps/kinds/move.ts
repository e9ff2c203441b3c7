import { z } from "zod";
import type { Kind } from "../../email";
import type { MoveStep } from "../step";
import { mustHave, type StepKind, StrayStep } from "./kind";
import { SpotSchema } from "./spot";

const schema = z.object({ op: z.literal("move"), id: z.string(), to: SpotSchema });

/** A node goes to another place. */
export const moveKind: StepKind<MoveStep, z.infer<typeof schema>> = {
  apply: (flat, { id, to }) => flat.move(id, to),
  inverted: (step) => ({ ...step, from: step.to, to: step.from }),
  rebase({ flat, clashes, touched }, { id, from, to }) {
    if (!flat.has(id) || !flat.takes(to.parent, flat.kind(id) as Kind)) return;
    const here = flat.parent(id);
    if (here !== from.parent && here !== to.parent) {
      clashes.push({ reason: "moved", id, path: "", mine: to, theirs: flat.spot(id) });
      return;
    }
    for (const parent of [here, to.parent]) if (parent !== null) touched.add(parent);
    flat.move(id, to.after === id ? { ...to, after: to.before } : to);
  },
  schema,
  pack: ({ id, to }) => ({ op: "move", id, to }),
  unpack(flat, { id, to }) {
    mustHave(flat, id);
    if (!flat.takes(to.parent, flat.kind(id) as Kind)) throw new StrayStep(`${id} cannot be moved there.`);
    return { op: "move", id, from: flat.spot(id), to };
  },
};
