import { z } from "zod";
import { type AnyNode, CHILDREN, childNodes, type Kind, ownOf } from "../../email";
import type { Flat } from "../flat";
import { mergeValue } from "../merge-value";
import type { InsertStep } from "../step";
import { type Ground, type StepKind, StrayStep } from "./kind";
import { SpotSchema } from "./spot";

const schema = z.object({
  op: z.literal("insert"),
  kind: z.enum(["section", "row", "column", "block"]),
  at: SpotSchema,
  node: z.looseObject({ id: z.string() }),
});

/** A node comes. */
export const insertKind: StepKind<InsertStep, z.infer<typeof schema>> = {
  apply: (flat, { kind, node, at }) => flat.insert(kind, node, at),
  inverted: (step) => ({ ...step, op: "remove" }),
  rebase(ground, { kind, node, at }) {
    const { flat, touched } = ground;
    if (flat.has(node.id) && flat.kind(node.id) !== kind) return;
    compareTwins(ground, kind, node);
    if (at.parent !== null) touched.add(at.parent);
    touched.add(node.id);
    if (flat.has(node.id) || flat.takes(at.parent, kind)) flat.insert(kind, node, at);
    else insertHomeless(flat, kind, node, touched);
  },
  schema,
  pack: ({ kind, at, node }) => ({ op: "insert", kind, at, node: node as { id: string } }),
  unpack(flat, { kind, at, node }) {
    if (flat.has(node.id) || !flat.takes(at.parent, kind))
      throw new StrayStep(`${node.id} cannot be put there.`);
    return { op: "insert", kind, at, node: node as unknown as AnyNode };
  },
};

/**
 * What is put in and is here already, as after a save that was not known to have arrived: it stays as it is here, and
 * what was different about it is reported.
 */
function compareTwins(ground: Ground, kind: Kind, node: AnyNode): void {
  const { flat, clashes } = ground;
  if (flat.has(node.id) && flat.kind(node.id) === kind) {
    const [mine, theirs] = [ownOf(kind, node), flat.ownOf(node.id)];
    // Widths are brought in order afterwards.
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)]))
      if (kind !== "column" || key !== "width")
        mergeValue(undefined, mine[key], theirs[key], key, (it) =>
          clashes.push({ reason: "changed", id: node.id, ...it }),
        );
  }
  const down = CHILDREN[kind];
  if (down) for (const child of childNodes(kind, node)) compareTwins(ground, down.kind, child);
}

const WRAPPER = { block: "column", column: "row", row: "section", section: "section" } as const;

/**
 * Puts in a node whose place is gone: in a row, and at last in a section, of its own before the last section. The ids
 * of what is put around it follow from its own, so that everybody who does this does the same.
 */
function insertHomeless(flat: Flat, kind: Kind, node: AnyNode, touched: Set<string>): void {
  const sections = flat.children(null);
  if (kind === "section") {
    flat.insert(kind, node, {
      parent: null,
      after: sections.at(-2) ?? null,
      before: sections.at(-1) ?? null,
    });
    return;
  }
  const outer = WRAPPER[kind];
  const own = outer === "column" ? { width: 100 } : {};
  const list = CHILDREN[outer].list;
  const around = { id: `${node.id}-${outer}`, ...own, [list]: [node] } as unknown as AnyNode;
  touched.add(around.id);
  if (flat.has(around.id))
    flat.insert(kind, node, {
      parent: around.id,
      after: flat.children(around.id).at(-1) ?? null,
      before: null,
    });
  else insertHomeless(flat, outer, around, touched);
}
