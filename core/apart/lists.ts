import { type ChildNode, type Element, isTag } from "domhandler";
import type { ListItem, Paragraph, RichNode } from "../email";
import { holdsBlock, isBlock, seen } from "./dom";
import { lineOf } from "./lines";
import { isHidden, type Look, lookInside } from "./look";
import { commonLook } from "./recognise";

/** A list with the lists in it. */
export function listOf(it: Element, around: Look): RichNode | null {
  const look = lookInside(it, around);
  const items = seen(it.children).flatMap((child): ListItem[] => {
    if (child.name !== "li") return [];
    const inside = lookInside(child, look);
    const words: ChildNode[] = [];
    const content: RichNode[] = [];
    const flush = () => {
      const nodes = words.splice(0);
      const line = lineOf(nodes, commonLook(nodes, inside), { look: inside, marks: [] });
      if (line.length > 0) content.push({ type: "paragraph", content: line });
    };
    for (const node of child.children) {
      if (isTag(node) && (node.name === "ul" || node.name === "ol")) {
        flush();
        const inner = listOf(node, inside);
        if (inner) content.push(inner);
      } else if (isTag(node) && isBlock(node)) {
        flush();
        content.push(...paragraphsIn(node, inside));
      } else words.push(node);
    }
    flush();
    return content.length > 0 ? [{ type: "listItem", content }] : [];
  });
  return items.length > 0 ? { type: it.name === "ol" ? "orderedList" : "bulletList", content: items } : null;
}

/** The words of an element as paragraphs. */
export function paragraphsIn(it: Element, around: Look): RichNode[] {
  const look = lookInside(it, around);
  const found: RichNode[] = [];
  let loose: ChildNode[] = [];
  const flush = () => {
    const nodes = loose;
    loose = [];
    const content = lineOf(nodes, commonLook(nodes, look), { look, marks: [] });
    if (content.length > 0) found.push({ type: "paragraph", content } satisfies Paragraph);
  };
  for (const node of it.children) {
    if (isTag(node) && (node.name === "ul" || node.name === "ol")) {
      flush();
      const list = listOf(node, look);
      if (list) found.push(list);
    } else if (isTag(node) && (isBlock(node) || holdsBlock(node))) {
      flush();
      if (!isHidden(node)) found.push(...paragraphsIn(node, look));
    } else loose.push(node);
  }
  flush();
  return found;
}
