import { type ChildNode, type Element, isComment, isTag, isText } from "domhandler";
import { isHidden } from "./look";

/** Things whose content is no writing. */
const SILENT = new Set(
  "script style template noscript head title meta link iframe object svg math".split(" "),
);

/** What stands by itself and not in a line of words. */
const BLOCKS = new Set(
  "address article aside blockquote body center dd details div dl dt fieldset figure figcaption footer form h1 h2 h3 h4 h5 h6 header hr html li main nav ol p pre section table tbody td tfoot th thead tr ul".split(
    " ",
  ),
);

export const isBlock = (element: Element) => BLOCKS.has(element.name);

/** The elements that are seen, of some nodes. */
export function seen(nodes: readonly ChildNode[]): Element[] {
  return nodes.filter((node): node is Element => isTag(node) && !SILENT.has(node.name) && !isHidden(node));
}

/** Every element inside that is seen and fits. */
export function within(element: Element, fits: (one: Element) => boolean): Element[] {
  return seen(element.children).flatMap((child) => [...(fits(child) ? [child] : []), ...within(child, fits)]);
}

/** The words that are seen inside, without line ends. */
export function wordsIn(nodes: readonly ChildNode[]): string {
  return raw(nodes)
    .replace(/(?:[\s\u00a0\u200b-\u200f\ufeff]|\u034f)+/g, " ")
    .trim();
}

function raw(nodes: readonly ChildNode[]): string {
  return nodes
    .map((node) => {
      if (isText(node)) return node.data;
      if (!isTag(node) || SILENT.has(node.name) || isHidden(node)) return "";
      return node.name === "br" || isBlock(node) ? ` ${raw(node.children)} ` : raw(node.children);
    })
    .join("");
}

/** Whether anything in it stands by itself. */
export const holdsBlock = (element: Element): boolean =>
  within(element, (one) => isBlock(one) || one.name === "img").length > 0;

/** The comments inside, hidden or not. */
export function commentsIn(nodes: readonly ChildNode[]): string[] {
  return nodes.flatMap((node) =>
    isComment(node) ? [node.data] : isTag(node) ? commentsIn(node.children) : [],
  );
}

/** The rows of a table and the cells of each, as they are written. */
export function rowsOf(table: Element): { row: Element; cells: Element[] }[] {
  return seen(table.children).flatMap((child) => {
    if (child.name === "tr") {
      const cells = seen(child.children).filter(({ name }) => name === "td" || name === "th");
      return cells.length > 0 ? [{ row: child, cells }] : [];
    }
    return /^(thead|tbody|tfoot)$/.test(child.name) ? rowsOf(child) : [];
  });
}
