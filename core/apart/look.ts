import { colord, extend } from "colord";
import namesPlugin from "colord/plugins/names";
import type { Element } from "domhandler";

/** How words look, as far as elements around them say. */
export interface Look {
  /** In px. */
  size: number;
  bold: boolean;
  color: string;
  align: "left" | "center" | "right";
  /** Whether an attribute says so: that places tables and does not reach into them (HTML, 15.3.8). */
  placed: boolean;
  /** The first family that is named; empty when none is. */
  family: string;
  /** As CSS writes it. */
  stack: string;
  /** As a factor. */
  line: number | null;
  /** What it stands on. */
  ground: string;
}

export const FIRST_LOOK: Look = {
  size: 16,
  bold: false,
  color: "#000000",
  align: "left",
  placed: false,
  family: "",
  stack: "",
  line: null,
  ground: "#FFFFFF",
};

extend([namesPlugin]);

/** A colour as `#RRGGBB`, however CSS writes it (CSS Color 4); null for one that is see-through, or none. */
export function colourOf(text: string): string | null {
  const value = text.trim().toLowerCase();
  // An attribute may leave the sign out (HTML, 2.3.6).
  const read = colord(/^[0-9a-f]{6}$/.test(value) ? `#${value}` : value);
  if (!read.isValid() || read.alpha() === 0) return null;
  return read.alpha(1).toHex().toUpperCase();
}

/** The declarations of a `style` attribute, in small letters but for values; later ones win. */
export function declarations(element: Element): Map<string, string> {
  const found = new Map<string, string>();
  for (const part of (element.attribs.style ?? "").split(/;(?![^(]*\))/)) {
    const colon = part.indexOf(":");
    if (colon < 0) continue;
    const value = part
      .slice(colon + 1)
      .replace(/!\s*important/i, "")
      .trim();
    found.set(part.slice(0, colon).trim().toLowerCase(), value);
  }
  return found;
}

/** A length in px; `whole` is what per cent are of. Null for what is none. */
export function lengthOf(text: string | undefined, whole: number, em = 16): number | null {
  const [, number, unit] = /^(-?[\d.]+)(px|pt|em|rem|%)?$/.exec(text?.trim().toLowerCase() ?? "") ?? [];
  if (number === undefined) return null;
  const value = Number(number);
  switch (unit) {
    case "%":
      return (value / 100) * whole;
    case "pt":
      return (value * 4) / 3;
    case "em":
      return value * em;
    case "rem":
      return value * 16;
    default:
      return value;
  }
}

/** The room that an element keeps at both sides of what is in it, in px. */
export function sidePadding(style: Map<string, string>, whole: number): number {
  const all = (style.get("padding") ?? "").split(/\s+/);
  const [, right = all[0]] = all;
  const [, , , left = right] = all;
  const px = (text: string | undefined) => lengthOf(text, whole) ?? 0;
  return px(style.get("padding-left") ?? left) + px(style.get("padding-right") ?? right);
}

/** The picture behind an element; null where there is none. */
export function pictureBehind(element: Element, style: Map<string, string>): string | null {
  const css = style.get("background-image") ?? style.get("background") ?? "";
  const address = /url\(\s*(["']?)(.*?)\1\s*\)/i.exec(css)?.[2] ?? element.attribs.background ?? "";
  return address.trim() === "" ? null : address.trim();
}

/** The colour that an element puts behind its content, of several the first; null where it puts none. */
export function groundOf(element: Element, style: Map<string, string>): string | null {
  const own = style.get("background-color");
  if (own !== undefined) return colourOf(own);
  const behind = `${style.get("background") ?? ""} ${style.get("background-image") ?? ""}`;
  // What runs from one colour into another begins with the first of them.
  for (const part of behind.replace(/url\([^)]*\)/gi, " ").match(/#\w+|(?:rgb|hsl)a?\([^)]*\)|[a-z]+/gi) ??
    []) {
    const color = colourOf(part);
    if (color) return color;
  }
  return element.attribs.bgcolor ? colourOf(element.attribs.bgcolor) : null;
}

/** Whether a table takes most of the room there is. */
function isWide(element: Element, style: Map<string, string>): boolean {
  const width = style.get("width") ?? element.attribs.width ?? "";
  return /^(100|9\d)%$/.test(width) || (lengthOf(width, 600) ?? 0) >= 400;
}

/** What the short way of writing a font says: its weight, size, line and families (CSS Fonts 4, 4.4). */
function shorthand(font: string | undefined, style: Map<string, string>): void {
  const [, before, size, line, family] =
    /^(.*?)\s*([\d.]+(?:px|pt|em|rem|%))(?:\s*\/\s*([\d.]+(?:px|em|%)?))?\s+(.+)$/i.exec(font ?? "") ?? [];
  if (size === undefined) return;
  const weight = /\b(bold|bolder|[1-9]00|normal)\b/i.exec(before)?.[1] ?? "normal";
  for (const [key, value] of [
    ["font-size", size],
    ["line-height", line],
    ["font-family", family],
    ["font-weight", weight],
  ] as const)
    if (value !== undefined && !style.has(key)) style.set(key, value);
}

const FONT_SIZES = [10, 13, 16, 18, 24, 32, 48];

/** How words look inside an element, which stands where they look so. */
export function lookInside(element: Element, around: Look): Look {
  const style = declarations(element);
  shorthand(style.get("font"), style);
  const look = { ...around };
  const { name, attribs } = element;
  const size = lengthOf(style.get("font-size"), around.size, around.size);
  if (size !== null && size > 0) look.size = size;
  else if (name === "font" && attribs.size)
    look.size = FONT_SIZES[Math.min(6, Math.max(0, Number(attribs.size) - 1))] ?? look.size;
  else if (/^h[1-6]$/.test(name)) look.size = [32, 24, 19, 16, 14, 13][Number(name[1]) - 1];
  else if (name === "small") look.size = around.size * 0.83;
  const weight = style.get("font-weight");
  if (weight !== undefined) look.bold = /^(bold|bolder|[6-9]00)$/i.test(weight);
  else if (/^(b|strong|th|h[1-6])$/.test(name)) look.bold = true;
  const color = colourOf(style.get("color") ?? (name === "font" ? (attribs.color ?? "") : ""));
  if (color) look.color = color;
  // Into a table that takes all the room an attribute around it does not reach; one that is narrow stands where it says.
  if (name === "table" && around.placed && isWide(element, style)) look.align = "left";
  const align = (
    style.get("text-align") ?? (name === "center" ? "center" : (attribs.align ?? ""))
  ).toLowerCase();
  // What `align` says of a table is about the table.
  if (/^(left|center|right)$/.test(align) && (name !== "table" || style.has("text-align")))
    Object.assign(look, { align, placed: !style.has("text-align") });
  else if (name === "th" && !style.has("text-align") && !attribs.align) look.align = "center";
  const family = style.get("font-family") ?? (name === "font" ? attribs.face : undefined);
  if (family) {
    look.stack = family.replaceAll('"', "'");
    look.family = family.split(",")[0].replace(/["']/g, "").trim();
  }
  const line = style.get("line-height");
  if (line !== undefined) {
    const px = /^[\d.]+$/.test(line) ? Number(line) * look.size : lengthOf(line, look.size, look.size);
    if (px !== null && px > 0) look.line = px / look.size;
  }
  look.ground = groundOf(element, style) ?? around.ground;
  return look;
}

/** Whether an element is for nobody's eyes. What only the word-processor engine hides is there for all others. */
export function isHidden(element: Element): boolean {
  const style = declarations(element);
  return (
    style.get("display")?.toLowerCase() === "none" ||
    style.get("visibility")?.toLowerCase() === "hidden" ||
    element.attribs.hidden !== undefined ||
    style.get("opacity") === "0" ||
    (lengthOf(style.get("max-height"), 1) === 0 && /hidden|^$/i.test(style.get("overflow") ?? "")) ||
    (isTiny(style) && saysSomething(element) && !holdsMore(element))
  );
}

const isTiny = (style: Map<string, string>) => (lengthOf(style.get("font-size"), 16) ?? 16) <= 1;

/** A line of space that is too small to be read may still be there to be seen, as an edge. */
const saysSomething = (element: Element): boolean =>
  element.children.some((child) =>
    "data" in child
      ? /[^\s\u00a0]/.test(String(child.data))
      : "children" in child && saysSomething(child as Element),
  );

/** Whether anything inside is seen although the words around it are too small to be. */
function holdsMore(element: Element): boolean {
  return element.children.some((child) => {
    if (!("attribs" in child)) return false;
    const one = child as Element;
    const size = declarations(one).get("font-size");
    return one.name === "img" || (size !== undefined && (lengthOf(size, 16) ?? 16) > 1) || holdsMore(one);
  });
}
