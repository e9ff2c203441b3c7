/** Where things of a letter are placed: in lines of a grid, around a picture, on a picture, on a ground that fills them. */
import { type Element, isText } from "domhandler";
import type { Bit } from "./bits";
import { seen, within, wordsIn } from "./dom";
import { declarations, lengthOf } from "./look";
import { gridColumns, ownWidth } from "./widths";

/** The room between a picture and the words that go around it, in px. */
export const GAP = 20;

/** A picture that words go around: at which side, and how wide, in px; null for what is none. */
export function floatedIn(it: Element, whole: number): { side: "left" | "right"; width: number } | null {
  const only = it.name === "a" ? seen(it.children) : [it];
  if (only.length !== 1 || only[0].name !== "img" || wordsIn(it.children) !== "") return null;
  const side = [it, only[0]]
    .flatMap((one) => [declarations(one).get("float"), one.attribs.align])
    .find((said) => said === "left" || said === "right");
  const width = ownWidth(only[0], whole);
  if (side === undefined || width === null || width < 60 || width > whole * 0.6) return null;
  return { side, width };
}

/** What an element holds in lines of several, where it is a grid or a row of boxes; the element itself where it is not. */
export function linesOf(it: Element): Element[][] {
  const style = declarations(it);
  const parts = seen(it.children);
  const together = /flex/.test(style.get("display") ?? "") ? parts.length : gridColumns(style);
  if (together < 2 || parts.length < 2) return [[it]];
  const lines = Math.ceil(parts.length / together);
  return Array.from({ length: lines }, (_, line) => parts.slice(line * together, (line + 1) * together));
}

/** A picture, and what is placed on it, of an element that is nothing else. */
export function overlaidIn(it: Element): { picture: Element; words: Element[] } | null {
  const parts = seen(it.children);
  const isPlaced = (part: Element) => /absolute/.test(declarations(part).get("position") ?? "");
  const words = parts.filter((part) => isPlaced(part) && wordsIn(part.children) !== "");
  const below = parts.filter((part) => !isPlaced(part));
  const pictures = below.flatMap((part) =>
    part.name === "img" ? [part] : within(part, ({ name }) => name === "img"),
  );
  if (words.length === 0 || pictures.length !== 1) return null;
  return wordsIn(it.children.filter((child) => !words.includes(child as Element))) === ""
    ? { picture: pictures[0], words }
    : null;
}

/** An element and whatever fills all of it: the one thing that is in it, and so on. */
export function layersOf(it: Element): Element[] {
  const [only, ...others] = seen(it.children);
  const words = it.children.some((child) => isText(child) && child.data.trim() !== "");
  const fills =
    only && others.length === 0 && !words && /^(table|tbody|tr|td|th|div|center)$/.test(only.name);
  return fills ? [it, ...layersOf(only)] : [it];
}

/** How high an element says that it is, in px, where that is worth saying. */
export function heightOf(it: Element, style: Map<string, string>): number | null {
  const height = lengthOf(style.get("height") ?? it.attribs.height, 0);
  return height !== null && height >= 60 && height <= 900 ? Math.round(height) : null;
}

/** What stands on a picture of its own: its words on it, and what no picture can hold below. */
export function onPicture(src: string, bits: readonly Bit[], height: number | null): Bit[] {
  const words: (Bit & { kind: "overlaid" })["words"] = [];
  for (const bit of bits) {
    if (bit.kind !== "line" && bit.kind !== "words") break;
    words.push(bit);
  }
  if (words.length === 0) return [...bits];
  const { look } = words.reduce((most, one) => (lengthIn(one) > lengthIn(most) ? one : most));
  return [
    { kind: "overlaid", src, alt: "", natural: null, height, words, look },
    ...bits.slice(words.length),
  ];
}

const lengthIn = (bit: Bit & { kind: "line" | "words" }): number =>
  JSON.stringify(bit.kind === "line" ? bit.content : bit.nodes).length;
