import { z } from "zod";
import { type AnyNode, CHILDREN, childNodes, type Kind, ownOf, same } from "../../email";
import type { RemoveStep } from "../step";
import { mustHave, type StepKind } from "./kind";

const schema = z.object({ op: z.literal("remove"), id: z.string() });

/** A node goes. */
export const removeKind: StepKind<RemoveStep, z.infer<typeof schema>> = {
  apply: (flat, { node }) => flat.remove(node.id),
  inverted: (step) => ({ ...step, op: "insert" }),
  /** What is still as it was when it was taken out goes; what somebody changed or put in meanwhile stays. */
  rebase({ flat, clashes, touched }, { kind, node }) {
    const visit = (at: Kind, one: AnyNode): void => {
      const down = CHILDREN[at];
      if (down) for (const child of childNodes(at, one)) visit(down.kind, child);
      if (!flat.has(one.id) || flat.kind(one.id) !== at) return;
      const changed = !same(flat.ownOf(one.id), ownOf(at, one));
      if (changed && (at === "block" || worthKeeping(flat.ownOf(one.id), ownOf(at, one))))
        clashes.push({ reason: "kept", id: one.id, path: "", mine: undefined, theirs: flat.node(one.id) });
      else if (flat.children(one.id).length === 0) {
        const parent = flat.parent(one.id);
        if (parent !== null) touched.add(parent);
        flat.remove(one.id);
      }
    };
    visit(kind, node);
  },
  schema,
  pack: ({ node }) => ({ op: "remove", id: node.id }),
  unpack(flat, { id }) {
    mustHave(flat, id);
    return { op: "remove", kind: flat.kind(id) as Kind, at: flat.spot(id), node: flat.node(id) };
  },
};

/** A column whose width alone changed, as when its neighbour went, is not one that somebody worked on. */
function worthKeeping(now: Record<string, unknown>, then: Record<string, unknown>): boolean {
  return !same({ ...now, width: 0 }, { ...then, width: 0 });
}
