/** What is there and shows nothing, and lines that part things. */
import type { Element } from "domhandler";
import { within, wordsIn } from "./dom";
import { declarations, groundOf, isHidden, lengthOf } from "./look";

/** No picture of a letter says anything that is this small, in px. */
const NOTHING = 3;
/** Pictures up to this size are signs, in px. */
const SIGN = 72;
export const isEmpty = (element: Element): boolean =>
  wordsIn([element]) === "" &&
  within(element, (one) => one.name === "img" || one.name === "hr").every(
    (one) => one.name === "img" && isNothing(one),
  ) &&
  !(element.name === "img" && !isNothing(element)) &&
  ruleOf(element) === null;

/** A picture that shows nothing: it counts openings or holds a place. */
export function isNothing(image: Element): boolean {
  const style = declarations(image);
  const { src = "" } = image.attribs;
  const width = lengthOf(style.get("width"), 600) ?? lengthOf(image.attribs.width, 600);
  const height = lengthOf(style.get("height"), 600) ?? lengthOf(image.attribs.height, 600);
  return (
    src.trim() === "" ||
    isHidden(image) ||
    (width !== null && width <= NOTHING) ||
    (height !== null && height <= NOTHING) ||
    /(^|[/_-])(spacer|blank|pixel|clear)\.(gif|png)$/i.test(src)
  );
}

export function isSign(image: Element): boolean {
  const style = declarations(image);
  const width = lengthOf(style.get("width"), 600) ?? lengthOf(image.attribs.width, 600);
  const height = lengthOf(style.get("height"), 600) ?? lengthOf(image.attribs.height, 600);
  return (width ?? height ?? 999) <= SIGN && (height ?? width ?? 999) <= SIGN;
}

/** A line drawn by an edge, or by an element that is a few px high and has a ground. */
export function ruleOf(element: Element): [true, string | null] | null {
  for (const one of [element, ...within(element, () => true)]) {
    const style = declarations(one);
    const edge = style.get("border-top") ?? style.get("border-bottom") ?? "";
    if (/[1-9]\d*(px|pt)?\s+(solid|dashed|dotted)|(solid|dashed|dotted)\s+[1-9]/i.test(edge))
      return [true, /(#[0-9a-f]{3,6}|rgb\([^)]*\))/i.exec(edge)?.[1] ?? null];
    const height = lengthOf(style.get("height"), 100) ?? lengthOf(one.attribs.height, 100);
    const ground = groundOf(one, style);
    if (height !== null && height > 0 && height <= 4 && ground) return [true, ground];
  }
  return null;
}

export const isRule = (element: Element) =>
  wordsIn([element]) === "" &&
  within(element, ({ name }) => name === "img").length === 0 &&
  ruleOf(element) !== null;
