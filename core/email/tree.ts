import type { Block, Column, Email, Row, Section } from "./document";

export type Kind = "section" | "row" | "column" | "block";

/** A node with what it is, so that one can tell them apart. */
export type Node =
  | { kind: "section"; node: Section }
  | { kind: "row"; node: Row }
  | { kind: "column"; node: Column }
  | { kind: "block"; node: Block };

/** A node and where it stands: the id of its parent (`null` for sections) and its index there. */
export type Located = Node & { parent: string | null; index: number };

/** All nodes in reading order, parents before children. */
export function* walk(email: Email): Generator<Located> {
  for (const [s, section] of email.sections.entries()) {
    yield { kind: "section", node: section, parent: null, index: s };
    for (const [r, row] of section.rows.entries()) {
      yield { kind: "row", node: row, parent: section.id, index: r };
      for (const [c, column] of row.columns.entries()) {
        yield { kind: "column", node: column, parent: row.id, index: c };
        for (const [b, block] of column.blocks.entries()) {
          yield { kind: "block", node: block, parent: column.id, index: b };
        }
      }
    }
  }
}

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

/** All ids of a node and what is in it. */
export function idsOf(it: Node): string[] {
  switch (it.kind) {
    case "block":
      return [it.node.id];
    case "column":
      return [it.node.id, ...it.node.blocks.map((block) => block.id)];
    case "row":
      return [it.node.id, ...it.node.columns.flatMap((node) => idsOf({ kind: "column", node }))];
    case "section":
      return [it.node.id, ...it.node.rows.flatMap((node) => idsOf({ kind: "row", node }))];
  }
}
