import { blockType } from "~/core/blocks";
import { type Email, findNode, type Located, walk } from "~/core/email";

/** Ids of what stands in a node, in order; the sections for `null`. */
export function childrenOf(email: Email, parent: string | null): readonly string[] {
  if (parent === null) return email.sections.map((section) => section.id);
  const found = findNode(email, parent);
  switch (found?.kind) {
    case "section":
      return found.node.rows.map((row) => row.id);
    case "row":
      return found.node.columns.map((column) => column.id);
    case "column":
      return found.node.blocks.map((block) => block.id);
    default:
      return [];
  }
}

/** The same for all parts at once, for going through many. */
export function childrenIndex(email: Email): ReadonlyMap<string | null, readonly string[]> {
  const index = new Map<string | null, string[]>();
  for (const it of walk(email)) {
    const siblings = index.get(it.parent);
    if (siblings) siblings.push(it.node.id);
    else index.set(it.parent, [it.node.id]);
  }
  return index;
}

/** The name of a node as its tab and the outline say it. */
export function nodeLabel(it: Located): string {
  if (it.kind === "block") return it.node.name ?? blockType(it.node.type)?.label ?? "Unknown block";
  if (it.kind === "column") return `Column ${it.index + 1}`;
  return it.node.name ?? (it.kind === "section" ? "Section" : "Row");
}
