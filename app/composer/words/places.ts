import type { Node } from "@tiptap/pm/model";

/**
 * The editor's place of an offset in a text where paragraphs and line breaks count as one sign, and so does each
 * merge tag.
 */
export function placeAt(doc: Node, offset: number): number {
  let left = offset;
  let place = 1;
  let found: number | null = null;
  let first = true;
  doc.descendants((node, at) => {
    if (found !== null) return false;
    if (!node.isTextblock) return true;
    if (!first) left -= 1;
    first = false;
    place = at + 1;
    if (left <= node.content.size) found = place + Math.max(0, left);
    left -= node.content.size;
    place += node.content.size;
    return false;
  });
  return found ?? place;
}
