import { remembered } from "../values";
import type { Block, Column, Email, Row, Section } from "./document";

export type Kind = "section" | "row" | "column" | "block";

/** A node with what it is, so that one can tell them apart. */
export type Node =
  | { kind: "section"; node: Section }
  | { kind: "row"; node: Row }
  | { kind: "column"; node: Column }
  | { kind: "block"; node: Block };
export type AnyNode = Node["node"];

/** A node and where it stands: the id of its parent (`null` for sections) and its index there. */
export type Located = Node & { parent: string | null; index: number };

/**
 * What the children of each kind are, and the property that holds them. This is the only place that knows: a property
 * of the same name in a node of another kind (a table has rows, too) is a property like any other.
 */
export const CHILDREN = {
  email: { list: "sections", kind: "section" },
  section: { list: "rows", kind: "row" },
  row: { list: "columns", kind: "column" },
  column: { list: "blocks", kind: "block" },
  block: null,
} as const satisfies Record<Kind | "email", { list: string; kind: Kind } | null>;

/** What stands directly in a node, in order. */
export function childNodes(kind: Kind | "email", node: object): readonly AnyNode[] {
  const down = CHILDREN[kind];
  return down === null ? [] : ((node as Record<string, unknown>)[down.list] as AnyNode[]);
}

/** A node of a kind with other children; what is given stays as it is. */
export function withChildren<T extends object>(
  kind: Kind | "email",
  node: T,
  children: readonly AnyNode[],
): T {
  const down = CHILDREN[kind];
  return down === null ? node : { ...node, [down.list]: children };
}

/** What a node has besides its children. */
export function ownOf(kind: Kind | "email", node: object): Record<string, unknown> {
  const down = CHILDREN[kind];
  const { ...own } = node as Record<string, unknown>;
  if (down !== null) delete own[down.list];
  return own;
}

// Into one list, not one by one: a generator within generators takes ten times as long.
function walkFrom(kind: Kind, node: object, parent: string | null, into: Located[]): Located[] {
  const down = CHILDREN[kind];
  if (down === null) return into;
  for (const [index, child] of childNodes(kind, node).entries()) {
    into.push({ kind: down.kind, node: child, parent, index } as Located);
    walkFrom(down.kind, child, child.id, into);
  }
  return into;
}

const inSection = remembered((section: Section) => walkFrom("section", section, section.id, []));

/**
 * All nodes in reading order, parents before children. They are found once of each document and section: a save asks
 * twenty times. So a document is a value, and one that is made different is another.
 */
export const walk = remembered((email: Email): readonly Located[] =>
  email.sections.flatMap((node, index): Located[] => [
    { kind: "section", node, parent: null, index },
    ...inSection(node),
  ]),
);

/** What stands in a node, at any depth, in reading order. */
export function walkIn(it: Node): readonly Located[] {
  return it.kind === "section" ? inSection(it.node) : walkFrom(it.kind, it.node, it.node.id, []);
}

/** All blocks in reading order. */
export const blocksOf = remembered((email: Email): readonly Block[] =>
  walk(email).flatMap((it) => (it.kind === "block" ? [it.node] : [])),
);

/** The node with that id, or undefined. */
export function findNode(email: Email, id: string): Located | undefined {
  for (const located of walk(email)) if (located.node.id === id) return located;
  return undefined;
}

/** The nodes from the section down to the one with that id; empty when there is none. */
export function pathTo(email: Email, id: string): Located[] {
  const byId = new Map<string, Located>();
  for (const located of walk(email)) byId.set(located.node.id, located);
  const path: Located[] = [];
  for (let at = byId.get(id); at; at = at.parent === null ? undefined : byId.get(at.parent)) path.unshift(at);
  return path;
}

/** Ids of what stands in a node, in order; the sections for `null`. Empty when the node is gone. */
export function childIds(email: Email, parent: string | null): string[] {
  const found = parent === null ? ({ kind: "email", node: email } as const) : findNode(email, parent);
  return found ? childNodes(found.kind, found.node).map((node) => node.id) : [];
}

/** The same for all nodes at once, for going through many. */
export function childIndex(email: Email): ReadonlyMap<string | null, readonly string[]> {
  const index = new Map<string | null, string[]>([[null, []]]);
  for (const it of walk(email)) {
    index.get(it.parent)?.push(it.node.id);
    if (it.kind !== "block") index.set(it.node.id, []);
  }
  return index;
}

/** All ids of a node and what is in it. */
export function idsOf(it: Node): string[] {
  return [it.node.id, ...[...walkIn(it)].map(({ node }) => node.id)];
}

/** A document with every node in it gone through a function, parents before children. */
export function mapEmail(email: Email, change: (node: AnyNode, kind: Kind) => AnyNode): Email {
  return { ...email, sections: email.sections.map((section) => mapNodes("section", section, change)) };
}

/** A copy of a node with every node in it gone through a function, parents before children. */
export function mapNodes<T extends AnyNode>(
  kind: Kind,
  node: T,
  change: (node: AnyNode, kind: Kind) => AnyNode,
): T {
  const changed = change(node, kind) as T;
  const down = CHILDREN[kind];
  if (down === null) return changed;
  return withChildren(
    kind,
    changed,
    childNodes(kind, changed).map((child) => mapNodes(down.kind, child, change)),
  );
}
