import { type ChildNode, type Element, isTag, isText } from "domhandler";
import type { Inline, Mark, WordStyle } from "../email";
import { broughtHref } from "../program";
import { MARK_OF, tidy } from "../writing";
import { isHidden, type Look, lookInside } from "./look";

const SILENT = new Set("script style template noscript head title meta link".split(" "));

/** Whether a size or colour differs so much that it was meant. */
const differs = (one: number, other: number) => Math.abs(one - other) >= 1.5;

/**
 * The words inside nodes with their marks: bold, slanted and struck words, links, and colours and sizes that differ from
 * those of the line they stand in.
 * @param base how the line looks; what looks so needs no mark
 */
export function lineOf(
  nodes: readonly ChildNode[],
  base: Look,
  around: { look: Look; marks: Mark[] } = { look: base, marks: [] },
): Inline[] {
  return tidy(collect(nodes, base, around));
}

function collect(nodes: readonly ChildNode[], base: Look, around: { look: Look; marks: Mark[] }): Inline[] {
  return nodes.flatMap((node): Inline[] => {
    if (isText(node)) {
      const text = node.data.replace(/[\t\n\f\r ]+/g, " ").replace(/\u200b|\u2060|\ufeff|\u034f/g, "");
      return text === "" ? [] : [word(text, base, around)];
    }
    if (!isTag(node) || SILENT.has(node.name) || isHidden(node)) return [];
    if (node.name === "br") return [{ type: "hardBreak" }];
    if (node.name === "img") {
      const alt = (node.attribs.alt ?? "").trim();
      // A picture within a line, such as a drawn sign, is what it says.
      return alt === "" ? [] : [word(alt, base, around)];
    }
    const look = lookInside(node, around.look);
    return collect(node.children, base, { look, marks: marksOf(node, around.marks) });
  });
}

function marksOf(element: Element, around: Mark[]): Mark[] {
  const set = new Map(around.map((mark) => [mark.type, mark]));
  const plain = MARK_OF[element.name];
  // How heavy words are is part of how they look.
  if (plain && plain !== "bold") set.set(plain, { type: plain });
  const style = element.attribs.style ?? "";
  if (/font-style\s*:\s*(italic|oblique)/i.test(style)) set.set("italic", { type: "italic" });
  if (/font-style\s*:\s*normal/i.test(style)) set.delete("italic");
  const line = /text-decoration(?:-line)?\s*:\s*([^;]+)/i.exec(style)?.[1] ?? "";
  if (/underline/i.test(line) && element.name !== "a") set.set("underline", { type: "underline" });
  if (/line-through/i.test(line)) set.set("strike", { type: "strike" });
  const href = element.name === "a" ? broughtHref(element.attribs.href ?? "") : null;
  if (href !== null) set.set("link", { type: "link", attrs: { href } });
  return [...set.values()];
}

function word(text: string, base: Look, { look, marks }: { look: Look; marks: Mark[] }): Inline {
  const all = [...marks];
  if (look.bold && !base.bold) all.unshift({ type: "bold" });
  const linked = marks.some(({ type }) => type === "link");
  const own: WordStyle = {};
  // Links take the theme's colour.
  if (look.color !== base.color && !linked) own.color = look.color;
  const raised = marks.some(({ type }) => type === "superscript" || type === "subscript");
  if (differs(look.size, base.size) && !raised) own.size = Math.min(96, Math.max(8, Math.round(look.size)));
  if (Object.keys(own).length > 0) all.push({ type: "style", attrs: own });
  return all.length > 0 ? { type: "text", text, marks: all } : { type: "text", text };
}

/**
 * Words that line ends part into what they are: paragraphs where two stand together, and a line of its own where one
 * is larger or heavier than what follows it.
 */
export function partsOf(content: readonly Inline[], look: Look): { content: Inline[]; look: Look }[] {
  const lines: Inline[][] = [[]];
  for (const it of content) {
    if (it.type === "hardBreak") lines.push([]);
    else lines.at(-1)?.push(it);
  }
  const parts: { content: Inline[]; look: Look; own: boolean }[] = [];
  let fresh = true;
  for (const line of lines) {
    if (line.length === 0) {
      fresh = true;
      continue;
    }
    const own = ownLook(line, look);
    const last = parts.at(-1);
    if (own) parts.push({ content: line.map((it) => plainer(it)), look: own, own: true });
    else if (fresh || !last || last.own) parts.push({ content: line, look, own: false });
    else last.content.push({ type: "hardBreak" }, ...line);
    fresh = false;
  }
  // Where all of it looks so, nothing stands out.
  return parts
    .map((part) => ({ content: tidy(part.content), look: part.look }))
    .filter((part) => part.content.length > 0);
}

/** How a line looks of which every word is larger or heavier than around it; null for any other. */
function ownLook(line: readonly Inline[], around: Look): Look | null {
  let size: number | null = null;
  let bold = true;
  let color: string | undefined;
  let signs = 0;
  for (const it of line) {
    if (it.type !== "text" || it.text.trim() === "") continue;
    const style = it.marks?.find((mark) => mark.type === "style");
    const own = style?.type === "style" ? style.attrs : {};
    if (size !== null && size !== (own.size ?? around.size)) return null;
    size = own.size ?? around.size;
    color = own.color;
    bold = bold && (it.marks ?? []).some(({ type }) => type === "bold");
    signs += it.text.length;
  }
  if (size === null || signs > 90) return null;
  const larger = size >= around.size * 1.15;
  return larger ? { ...around, size, bold: bold || around.bold, color: color ?? around.color } : null;
}

/** Without what the line says as a whole now. */
function plainer(it: Inline): Inline {
  const marks = it.marks?.filter(({ type }) => type !== "style" && type !== "bold");
  const { marks: _, ...plain } = it;
  return (marks && marks.length > 0 ? { ...plain, marks } : plain) as Inline;
}
