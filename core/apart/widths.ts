/** How wide things say that they are, and what stands beside what. */
import { type ChildNode, type Element, isComment, isTag, isText } from "domhandler";
import { declarations, isHidden, lengthOf } from "./look";
import { isEmpty } from "./nothing";

export const USUAL_WIDTH = 600;
/** Wider than this no letter is, in px. */
export const WIDEST = 760;

/** Whether an element is as wide as there is room: it says so, or nothing says otherwise. */
export function isFull(element: Element, style: Map<string, string>): boolean {
  if (element.name === "td" && /^$|^100%$/.test(style.get("width") ?? element.attribs.width ?? "")) {
    // A cell is as wide as its table.
    for (let at = element.parent; at && isTag(at); at = at.parent)
      if (at.name === "table")
        return /^100%$/.test(at.attribs.width ?? "") || (ownWidth(at, USUAL_WIDTH) ?? 0) > USUAL_WIDTH / 2;
  }
  const width = style.get("width") ?? element.attribs.width ?? (element.name === "div" ? "100%" : "");
  const most = style.get("max-width");
  return /^100%$/.test(width.trim()) && (most === undefined || /^(100%|none)$/.test(most));
}

/** Whether an element says in px how wide it is: from there on it is the letter, and not the window. */
export const saysPx = (element: Element, style: Map<string, string>) =>
  [style.get("max-width"), style.get("width"), element.attribs.width].some((width) =>
    /^\d{3,}(px)?$/.test(width?.trim() ?? ""),
  );

/** How wide an element says that it is, in px; null where it does not say. */
export function ownWidth(element: Element, whole: number): number | null {
  const style = declarations(element);
  const widths = [style.get("max-width"), style.get("width"), element.attribs.width]
    .map((text) => lengthOf(text, whole))
    .filter((width): width is number => width !== null && width > 0);
  return widths.length > 0 ? Math.min(whole, ...widths) : null;
}

/** What says of an element that others may stand beside it. */
function standsBeside(element: Element): boolean {
  const style = declarations(element);
  return (
    /inline-block|inline-table|table-cell/.test(style.get("display") ?? "") ||
    /left|right/.test(style.get("float") ?? "") ||
    (element.name === "table" && /^(left|right)$/i.test(element.attribs.align ?? ""))
  );
}

/** What columns are made of; links and pictures in a line are words of it. */
const BESIDE = /^(div|table|td|span|section|article|aside|main|figure|ul|ol|p|h[1-6])$/;

/**
 * How many columns a grid says that it has; 1 for what is none (CSS Grid Layout 1, 7.2).
 */
export function gridColumns(style: Map<string, string>): number {
  if (!/grid/.test(style.get("display") ?? "")) return 1;
  const tracks = (style.get("grid-template-columns") ?? "").replace(
    /repeat\(\s*(\d+)\s*,\s*([^()]*(?:\([^()]*\)[^()]*)*)\)/gi,
    (_, times: string, track: string) => `${track} `.repeat(Math.min(12, Number(times))),
  );
  return Math.max(1, tracks.trim() === "" ? 1 : tracks.trim().split(/\s+(?![^(]*\))/).length);
}

/**
 * Whether things side by side are in the order from right to left although what is in each is not: a way to have the
 * last of them on top on phones.
 */
export function isTurned(elements: readonly Element[]): boolean {
  const directionOf = (it: Element) =>
    (declarations(it).get("direction") ?? it.attribs.dir ?? "").trim().toLowerCase();
  if (!elements.every((it) => directionOf(it) === "ltr")) return false;
  for (let at = elements[0]?.parent; at && isTag(at) && at.name !== "body"; at = at.parent) {
    const direction = directionOf(at);
    if (direction !== "") return direction === "rtl";
  }
  return false;
}

/** Elements that stand beside each other from a place on: blocks in a line, or floating. Comments between them may say how wide they are. */
export function besides(
  nodes: readonly ChildNode[],
  from: number,
): { element: Element; width: number | null }[] {
  const found: { element: Element; width: number | null }[] = [];
  let said: number | null = null;
  const before = nodes[from - 1];
  const widthIn = (text: string) =>
    lengthOf(
      /width\s*[:=]\s*["']?\s*([\d.]+(?:px|%)?)/i.exec(/<td[\s\S]*$/i.exec(text)?.[0] ?? "")?.[1],
      USUAL_WIDTH,
    );
  if (before && isComment(before)) said = widthIn(before.data);
  for (let at = from; at < nodes.length; at++) {
    const node = nodes[at];
    if (isComment(node)) said = widthIn(node.data) ?? said;
    else if (isText(node)) {
      if (node.data.trim() !== "") break;
    } else if (isTag(node)) {
      if (isHidden(node) || node.name === "br") continue;
      if (!BESIDE.test(node.name) || !standsBeside(node)) break;
      if (!isEmpty(node)) found.push({ element: node, width: said ?? sized(node) });
      said = null;
    }
  }
  return found.length > 1 ? found : [];
}

/** How wide an element is that stands beside others; one that fills the letter says nothing of it. */
function sized(element: Element): number | null {
  const width = ownWidth(element, USUAL_WIDTH);
  return width === null || width >= USUAL_WIDTH ? null : width;
}

/** How much of a row each of its columns takes, in per cent that add up to 100. */
export function sharesOf(widths: readonly (number | null)[], whole: number): number[] {
  const known = widths.reduce((sum: number, width) => sum + (width ?? 0), 0);
  const unknown = widths.filter((width) => width === null).length;
  const left = Math.max(whole - known, (whole / widths.length) * unknown * 0.3);
  const all = widths.map((width) => width ?? left / unknown);
  const sum = all.reduce((one, other) => one + other, 0);
  const least = 5;
  const shares = all.map((width) => Math.max(least, Math.round((width / sum) * 10_000) / 100));
  const over = shares.reduce((one, other) => one + other, 0) - 100;
  const widest = shares.indexOf(Math.max(...shares));
  shares[widest] = Math.round((shares[widest] - over) * 100) / 100;
  return shares;
}
