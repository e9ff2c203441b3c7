import { type ChildNode, type Document, Element } from "domhandler";
import { DomUtils, parseDocument } from "htmlparser2";

export type { ChildNode, Document };
export { Element };

/** Reads a whole page. */
export function readPage(html: string): Document {
  return parseDocument(html, { recognizeSelfClosing: true });
}

/** Writes a page out again. */
export function writePage(page: Document): string {
  return DomUtils.getOuterHTML(page, { encodeEntities: "utf8" });
}

/** All elements in the order in which they stand; a list of its own, so that they may be moved meanwhile. */
export function elementsOf(page: Document): Element[] {
  const found: Element[] = [];
  const walk = (nodes: readonly ChildNode[]) => {
    for (const node of nodes) {
      if (!(node instanceof Element)) continue;
      found.push(node);
      walk(node.children);
    }
  };
  walk(page.children);
  return found;
}
