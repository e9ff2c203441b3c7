import { type ChildNode, Element, readPage } from "./page";

/** What a message is made of for those who hear it or look where it leads, in reading order. */
export interface Outline {
  headings: { level: number; words: string; node: string | null }[];
  links: { href: string; words: string; node: string | null }[];
  pictures: { src: string; alt: string | null; node: string | null }[];
}

const HEADING = /^h([1-6])$/;

/** The headings, links and pictures of a page; what is not shown anywhere is left out. @param html a page */
export function outlineOf(html: string): Outline {
  const found: Outline = { headings: [], links: [], pictures: [] };
  const walk = (nodes: readonly ChildNode[], around: string | null) => {
    for (const it of nodes) {
      if (!(it instanceof Element) || ["head", "script", "style"].includes(it.name)) continue;
      const node = it.attribs["data-node"] ?? around;
      const level = HEADING.exec(it.name)?.[1];
      if (level) found.headings.push({ level: Number(level), words: wordsOf(it), node });
      if (it.name === "a" && it.attribs.href !== undefined)
        found.links.push({ href: it.attribs.href, words: it.attribs["aria-label"] ?? wordsOf(it), node });
      if (it.name === "img" && it.attribs.width !== "1")
        found.pictures.push({ src: it.attribs.src ?? "", alt: it.attribs.alt ?? null, node });
      walk(it.children, node);
    }
  };
  walk(readPage(html).children, null);
  return found;
}

const wordsOf = (element: Element) => wordsIn(element).trim();

/** What an element says, its pictures by their alternative texts. */
function wordsIn(node: ChildNode): string {
  if (node.type === "text") return node.data.replace(/(?:\s|\u00a0|\u200d)+/g, " ");
  if (!(node instanceof Element)) return "";
  if (node.name === "img") return node.attribs.alt ?? "";
  return node.children.map(wordsIn).join("");
}
