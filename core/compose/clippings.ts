/**
 * Clippings: parts of designs kept to be used again. A loose one is a copy like any other; a linked one names where it
 * comes from, is changed there and nowhere else, and follows it.
 */
import {
  type AnyNode,
  type Block,
  type Email,
  type Located,
  mapEmail,
  mapNodes,
  type Node,
  pathTo,
  type Row,
  SCHEMA_VERSION,
  type Section,
  walk,
} from "../email";
import { Flat, type Step } from "../steps";
import { type Command, CommandError } from "./commands";

export type ClippingPart = "section" | "row" | "block";

/** A part kept to be used again. */
export interface Clipping {
  id: string;
  name: string;
  part: ClippingPart;
  /** With ids of its own, which do not change when it is changed. */
  node: Section | Row | Block;
}

/** What belongs to the place where a clipping stands, and stays when it changes. */
const OF_THE_PLACE = ["show", "hideOn"] as const;

/** Under which id the part itself is kept. */
const TOP = "part";

/**
 * A part as it is kept: under ids of its own, loose inside, and without the footer, of which every email has its own.
 * @throws CommandError when nothing is left, or for what cannot be kept
 */
export function keptPart(it: Node): { part: ClippingPart; node: Section | Row | Block } {
  if (it.kind === "column") throw new CommandError("A column is kept with its row. Select the row.");
  const top = it.node.id;
  const plain = withoutFooter(it.kind, it.node) as Section | Row | Block | null;
  if (plain === null)
    throw new CommandError("The footer belongs to every email already; it is not kept by itself.");
  const node = mapNodes(it.kind, plain, (one) => {
    const { clipping: _link, ...rest } = one as AnyNode & { clipping?: string };
    const id = one.id === top ? TOP : one.id.startsWith(`${top}-`) ? one.id.slice(top.length + 1) : one.id;
    return { ...rest, id } as AnyNode;
  });
  for (const key of OF_THE_PLACE) delete (node as unknown as Record<string, unknown>)[key];
  return { part: it.kind, node };
}

function withoutFooter(kind: Node["kind"], node: AnyNode): AnyNode | null {
  if (kind === "block") return (node as Block).type === "footer" ? null : node;
  return mapNodes(kind, node, (one, is) =>
    is === "column"
      ? { ...one, blocks: (one as { blocks: Block[] }).blocks.filter(({ type }) => type !== "footer") }
      : one,
  );
}

/**
 * A clipping as it stands in a design.
 * @param id of the part there; those inside follow from it, so that a change of the clipping finds them again
 * @param before what stood there, whose own things stay
 */
export function placedClipping(
  { id: link, part, node }: Clipping,
  id: string,
  linked: boolean,
  before?: AnyNode,
): Section | Row | Block {
  const placed = mapNodes(part, node as AnyNode, (one) => ({
    ...one,
    id: one.id === TOP ? id : `${id}-${one.id}`,
  })) as Section | Row | Block;
  const own = Object.fromEntries(
    OF_THE_PLACE.flatMap((key) => {
      const value = (before as Record<string, unknown> | undefined)?.[key];
      return value === undefined ? [] : [[key, value]];
    }),
  );
  return { ...placed, ...own, ...(linked && { clipping: link }) };
}

const linkOf = (it: Located) => (it.kind === "column" ? undefined : it.node.clipping);

/** The linked clippings in a design. */
export function linkedParts(email: Email): { id: string; clipping: string }[] {
  return [...walk(email)].flatMap((it) => {
    const clipping = linkOf(it);
    return clipping === undefined ? [] : [{ id: it.node.id, clipping }];
  });
}

/** The linked part that a node is, or stands in; undefined for what is the design's own. */
export function linkedAround(email: Email, id: string): Located | undefined {
  return pathTo(email, id).find((it) => linkOf(it) !== undefined);
}

/**
 * The linked part that keeps a node from being changed by the way; undefined for what may be changed.
 * @param opened the linked part that is being changed on purpose; `every` for all of them
 */
export function heldBy(email: Email, id: string, opened: string | null): Located | undefined {
  const linked = opened === "every" ? undefined : linkedAround(email, id);
  return linked?.node.id === opened ? undefined : linked;
}

/** A design with every place of a linked clipping as the clipping is now. */
export function withClipping(email: Email, clipping: Clipping): Email {
  return mapEmail(email, (node, kind) =>
    kind !== "column" && kind === clipping.part && (node as Block).clipping === clipping.id
      ? placedClipping(clipping, node.id, true, node)
      : node,
  );
}

/** Cuts a linked part loose: it stays as it is, and is the design's own from now on. */
export const cutLoose =
  (id: string): Command =>
  (edit) => {
    if (edit.find(id)) edit.set(id, "clipping", undefined);
  };

/** Makes a part a place of the clipping that was kept from it. */
export const linkTo =
  (id: string, clipping: Clipping): Command =>
  (edit) => {
    const found = edit.find(id);
    if (!found || found.kind === "column") return;
    const placed = placedClipping(clipping, id, true, found.node);
    edit.become(mapEmail(edit.email, (node) => (node.id === id ? placed : node)));
  };

/** What may be set on a linked part itself. */
const FREE = new Set<string>([...OF_THE_PLACE, "clipping"]);

/**
 * The linked part that steps would change, other than to move it, to take it out, or to say who gets it.
 * @param opened the one that is being changed on purpose; `every` for all of them
 */
export function changesLinked(
  before: Email,
  steps: readonly Step[],
  opened: string | null,
): Located | undefined {
  if (opened === "every" || steps.length === 0 || linkedParts(before).length === 0) return undefined;
  const cut = new Set(
    steps.flatMap((step) =>
      step.op === "set" && step.path === "clipping" && step.id !== null ? [step.id] : [],
    ),
  );
  const flat = new Flat(before);
  const held = (id: string | null): Located | undefined => {
    if (id === null || !flat.has(id)) return undefined;
    const linked = heldBy(before, id, opened);
    return linked && !cut.has(linked.node.id) ? linked : undefined;
  };
  for (const step of steps) {
    const [inside, itself] =
      step.op === "set"
        ? [step.id, !FREE.has(step.path.split("/")[0])]
        : step.op === "move"
          ? [step.from.parent, true]
          : [step.at.parent, true];
    const linked = held(inside);
    if (linked && (itself || linked.node.id !== inside)) return linked;
    if (step.op === "move" && held(step.to.parent)) return held(step.to.parent);
  }
  return undefined;
}

/** A part by itself as a design, to be read, drawn and searched like one. */
export function aroundPart(part: ClippingPart, node: unknown): unknown {
  const row = part === "row" ? node : { id: "row", columns: [{ id: "column", width: 100, blocks: [node] }] };
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "",
    envelope: { subject: [], preheader: [], sender: { name: [], address: "" } },
    sections: [part === "section" ? node : { id: "section", rows: [row] }],
  };
}
