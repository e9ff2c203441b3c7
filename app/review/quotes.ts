/** Words that are marked in an email, and found in it again. */
import type { Quote } from "~/server/review/comments";

/** So many signs are kept of what stands before: enough to tell one of several. */
const BEFORE = 32;
/** A longer mark is of the whole block. */
export const LONGEST_QUOTE = 400;

/** White space as it is read: one blank for any of it. */
const readAs = (text: string) => text.replace(/\s+/g, " ");

/**
 * Where words stand in a text: its ends, or null where they do not. Of several that read the same it is the one before which the
 * same stands; where that has changed, the first.
 */
export function placeOf(text: string, { exact, before }: Quote): [from: number, to: number] | null {
  // Each sign of what is read, by its place in what is written.
  const places: number[] = [];
  let read = "";
  for (let at = 0; at < text.length; at++) {
    const blank = /\s/.test(text[at]);
    if (blank && read.endsWith(" ")) continue;
    read += blank ? " " : text[at];
    places.push(at);
  }
  const wanted = readAs(exact);
  if (wanted.trim() === "") return null;
  const led = read.indexOf(readAs(before) + wanted);
  const start = led >= 0 ? led + readAs(before).length : read.indexOf(wanted);
  return start < 0 ? null : [places[start], places[start + wanted.length - 1] + 1];
}

const textNodes = (within: Element): Text[] => {
  const walk = within.ownerDocument.createTreeWalker(within, NodeFilter.SHOW_TEXT);
  const found: Text[] = [];
  while (walk.nextNode()) found.push(walk.currentNode as Text);
  return found;
};

/** What a range marks within an element; null where that is nothing, or too much to be a mark. */
export function quoteOf(range: Range, within: Element): Quote | null {
  const exact = readAs(range.toString()).trim();
  if (exact === "" || exact.length > LONGEST_QUOTE) return null;
  const ahead = within.ownerDocument.createRange();
  ahead.selectNodeContents(within);
  ahead.setEnd(range.startContainer, range.startOffset);
  const marked = range.toString();
  const blanks = marked.length - marked.trimStart().length;
  return { exact, before: readAs(ahead.toString() + marked.slice(0, blanks)).slice(-BEFORE) };
}

/** Where words stand within an element; null where they do not any more. */
export function rangeOf(quote: Quote, within: Element): Range | null {
  const nodes = textNodes(within);
  const place = placeOf(nodes.map(({ data }) => data).join(""), quote);
  if (!place) return null;
  const range = within.ownerDocument.createRange();
  let at = 0;
  for (const node of nodes) {
    const [from, to] = place.map((one) => one - at);
    if (from >= 0 && from < node.length) range.setStart(node, from);
    if (to > 0 && to <= node.length) {
      range.setEnd(node, to);
      break;
    }
    at += node.length;
  }
  return range;
}
