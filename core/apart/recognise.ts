/** What a group of elements is to a reader: a button, ways to follow somebody, a menu, a table of facts. */
import { type ChildNode, type Element, isTag, isText } from "domhandler";
import { broughtHref } from "../program";
import type { Facts } from "./bits";
import { isBlock, rowsOf, within, wordsIn } from "./dom";
import { lineOf } from "./lines";
import {
  colourOf,
  declarations,
  FIRST_LOOK,
  groundOf,
  isHidden,
  type Look,
  lengthOf,
  lookInside,
} from "./look";
import { isEmpty, isNothing, isSign } from "./nothing";
import { isFull, ownWidth, USUAL_WIDTH } from "./widths";

export const safe = (href: string | undefined) => broughtHref(href ?? "") ?? undefined;

/** The look that most of some words have. */
export function commonLook(nodes: readonly ChildNode[], around: Look): Look {
  const found = new Map<string, { look: Look; signs: number }>();
  const count = (all: readonly ChildNode[], look: Look) => {
    for (const node of all) {
      if (isText(node)) {
        const signs = node.data.replace(/\s+/g, "").length;
        if (signs === 0) continue;
        const key = `${look.size} ${look.bold} ${look.color}`;
        const one = found.get(key) ?? { look, signs: 0 };
        found.set(key, { look: one.look, signs: one.signs + signs });
      } else if (isTag(node) && !isHidden(node)) count(node.children, lookInside(node, look));
    }
  };
  count(nodes, around);
  const [most] = [...found.values()].sort((one, other) => other.signs - one.signs);
  return most ? { ...most.look, align: around.align, ground: around.ground } : around;
}

export interface FoundButton {
  link: Element;
  href: string;
  face: string | null;
  radius: number;
  edge: boolean;
  look: Look;
}

/** How many signs a button's words have at most. */
const SHORT = 60;

export function buttonIn(it: Element, around: Look): FoundButton | null {
  if (!/^(a|td|div|table|center|span|p|tr|tbody)$/.test(it.name)) return null;
  const links = it.name === "a" ? [it] : within(it, ({ name }) => name === "a");
  if (links.length !== 1) return null;
  const [link] = links;
  const href = safe(link.attribs.href);
  const words = wordsIn(link.children);
  if (!href || words === "" || words.length > SHORT || wordsIn([it]) !== words) return null;
  if (within(it, ({ name }) => name === "img").some((one) => !isNothing(one))) return null;
  // The face is on the link, on something in it, or on what is close around it.
  let face: string | null = null;
  let edge = false;
  let padded = false;
  let radius = 0;
  const chain: Element[] = [];
  for (let at: Element | null = link; at; at = at.parent && isTag(at.parent) ? at.parent : null) {
    chain.push(at);
    if (at === it) break;
  }
  for (const element of [...within(link, () => true).filter((one) => wordsIn([one]) === words), ...chain]) {
    const style = declarations(element);
    const ground = groundOf(element, style);
    const onLink = element === link || !chain.includes(element);
    // What is as wide as there is room is a band, unless the link fills it.
    const fills = /block|flex/.test(declarations(link).get("display") ?? "");
    if (ground && ground !== around.ground && (onLink || fills || !isFull(element, style))) face ??= ground;
    const border = /^([\d.]+)(px|pt)?\s+(solid|dashed|dotted|double)\s*(#[0-9a-f]{3,6}\b)?/i.exec(
      style.get("border")?.trim() ?? "",
    );
    if (border && Number(border[1]) > 0) edge = true;
    // A thick line in the colour of the face, or instead of one, is the room around the words.
    if (border && Number(border[1]) >= 5) {
      padded = true;
      if (onLink || !isFull(element, style)) face ??= colourOf(border[4]);
    }
    // Words that stand alone in a high line have room above and below.
    const line = lengthOf(style.get("line-height") ?? style.get("height") ?? element.attribs.height, 100);
    if (line !== null && line >= 32 && (ground || style.has("width") || onLink)) padded = true;
    const room = lengthOf(
      (style.get("padding") ?? style.get("padding-left") ?? style.get("padding-top") ?? "")
        .split(/\s+/)
        .at(-1),
      100,
    );
    if (room !== null && room >= 5) padded = true;
    radius = Math.max(radius, lengthOf(style.get("border-radius")?.split(/\s+/)[0], 100) ?? 0);
  }
  if (!padded || (!face && !edge)) return null;
  const look = chain.slice(1).reduceRight((inner, element) => lookInside(element, inner), around);
  return { link, href, face, radius, edge: edge && !face, look };
}

/** Small pictures that lead elsewhere, side by side: the ways to follow somebody. */
export function socialIn(
  it: Element,
): { items: { src: string; label: string; href: string }[]; size: number } | null {
  const links = within(it, ({ name }) => name === "a");
  return links.length >= 2 && wordsIn([it]) === "" ? socialLinks(it, links) : null;
}

export function socialOf(parts: readonly Element[]) {
  if (parts.some((part) => wordsIn([part]) !== "")) return null;
  const all = parts.flatMap((part) => [
    ...(part.name === "a" ? [part] : []),
    ...within(part, ({ name }) => name === "a"),
  ]);
  return all.length >= 2 && all.length === parts.length ? socialLinks(parts[0], all, parts) : null;
}

function socialLinks(it: Element, links: readonly Element[], parts: readonly Element[] = [it]) {
  const images = parts.flatMap((part) => within(part, (one) => one.name === "img" && !isNothing(one)));
  if (images.length !== links.length || links.length > 12) return null;
  if (!images.every(isSign)) return null;
  const items = links.map((link, index) => {
    const image = images[index];
    const href = safe(link.attribs.href) ?? "";
    return { src: (image.attribs.src ?? "").trim(), label: labelOf(image, link, href), href };
  });
  if (items.some(({ href }) => href === "")) return null;
  const size = Math.max(
    ...images.map(
      (one) => lengthOf(one.attribs.width, 600) ?? lengthOf(declarations(one).get("width"), 600) ?? 24,
    ),
  );
  return { items, size: Math.min(48, Math.max(16, Math.round(size))) };
}

function labelOf(image: Element, link: Element, href: string): string {
  const said = (image.attribs.alt ?? link.attribs.title ?? "").trim();
  if (said !== "") return said.slice(0, 80);
  return (/^https?:\/\/(?:www\.)?([^/?#]+)/i.exec(href)?.[1] ?? "Link").slice(0, 80);
}

/** Cells that hold a short link each and nothing else. */
export function menuIn(cells: readonly Element[]): { label: string; href: string }[] | null {
  const full = cells.filter((cell) => !isEmpty(cell) && !/^[|·•/-]$/.test(wordsIn([cell])));
  if (full.length < 2 || full.length > 12) return null;
  const items = full.map((cell) => {
    const links = within(cell, ({ name }) => name === "a");
    const words = wordsIn([cell]);
    if (links.length !== 1 || wordsIn([links[0]]) !== words || words.length > 30 || words === "") return null;
    if (buttonIn(cell, FIRST_LOOK) && groundOf(links[0], declarations(links[0]))) return null;
    const href = safe(links[0].attribs.href);
    return href ? { label: words, href } : null;
  });
  return items.every((item) => item !== null) ? items : null;
}

/** How the first link of a menu looks. */
export function menuLook(cell: Element, around: Look): Look {
  const [link] = within(cell, ({ name }) => name === "a");
  const inside = lookInside(cell, around);
  return { ...commonLook(link.children, lookInside(link, inside)), align: around.align };
}

/** A table of facts; null for one that only lays things out. */
export function factsIn(table: Element, around: Look): Facts | null {
  const rows = rowsOf(table);
  if (rows.length < 2 || rows.length > 100) return null;
  const count = rows[0].cells.length;
  if (count < 2 || count > 12 || rows.some(({ cells }) => cells.length !== count)) return null;
  const plain = rows.every(({ cells }) =>
    cells.every(
      (cell) => !holdsBlockButWords(cell) && wordsIn([cell]).length <= 120 && buttonIn(cell, around) === null,
    ),
  );
  if (!plain) return null;
  const header = rows[0].cells.every(({ name }) => name === "th");
  const filled = rows.filter(({ cells }) => cells.filter((cell) => wordsIn([cell]) !== "").length > 1).length;
  const lined = table.attribs.border !== undefined && table.attribs.border !== "0";
  const edged = rows.some(({ cells }) =>
    cells.some(
      (cell) =>
        /border/i.test(cell.attribs.style ?? "") &&
        !/border(-width)?\s*:\s*(0|none)/i.test(cell.attribs.style ?? ""),
    ),
  );
  // What only stands side by side is no table of facts: one has several rows of words that belong together.
  if (!header && !lined && !(filled === rows.length && (edged || rows.length > 2))) return null;
  const inside = (row: Element) => lookInside(row, lookInside(table, around));
  const last = rows[rows.length - 1];
  const widths = rows[0].cells.map((cell) => ownWidth(cell, USUAL_WIDTH));
  const said = widths.every((width): width is number => width !== null);
  return {
    header,
    columns: last.cells.map((cell, index) => ({
      // Where none is said, a column is as wide as what it holds asks for.
      width: said
        ? (widths[index] ?? 0)
        : Math.min(40, Math.max(6, ...rows.map(({ cells }) => wordsIn([cells[index]]).length))) + 4,
      align: lookInside(cell, inside(last.row)).align,
    })),
    rows: rows.map(({ row, cells }) => {
      const look = inside(row);
      return cells.map((cell) => {
        const own = lookInside(cell, look);
        return lineOf(cell.children, commonLook(cell.children, own), { look: own, marks: [] });
      });
    }),
  };
}

const holdsBlockButWords = (cell: Element) =>
  within(cell, (one) => (isBlock(one) && !/^(p|div|center)$/.test(one.name)) || one.name === "img").length >
  0;
