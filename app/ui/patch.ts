/**
 * Makes what stands on the canvas like what was drawn anew, where both have the same shape: another theme changes
 * nearly every style and not one element. Elements, pictures and frames stay, so that the browser has to lay out anew
 * and no more.
 */

/** What may stay at a place, whatever was drawn for it: all of it, or what is in it. */
export type Stays = (old: Node, next: Node) => "whole" | "inside" | false;

/** @returns false, with nothing changed, when the shapes differ */
export function patch(old: Node, next: Node, stays: Stays): boolean {
  if (!alike(old, next, stays)) return false;
  take(old, next, stays);
  return true;
}

function alike(old: Node, next: Node, stays: Stays): boolean {
  if (stays(old, next)) return true;
  // A part of the canvas and what was parsed for it are of the same shape by their children.
  const container = next.nodeType === Node.DOCUMENT_FRAGMENT_NODE;
  if (!container && old.nodeName !== next.nodeName) return false;
  let one = old.firstChild;
  let other = next.firstChild;
  for (; one && other; one = one.nextSibling, other = other.nextSibling)
    if (!alike(one, other, stays)) return false;
  return one === null && other === null;
}

function take(old: Node, next: Node, stays: Stays): void {
  const stay = stays(old, next);
  if (stay === "whole") return;
  if (old instanceof Element && next instanceof Element) takeAttributes(old, next);
  else if (old.nodeValue !== next.nodeValue) old.nodeValue = next.nodeValue;
  if (stay === "inside") return;
  let one = old.firstChild;
  let other = next.firstChild;
  for (; one && other; one = one.nextSibling, other = other.nextSibling) take(one, other, stays);
}

function takeAttributes(old: Element, next: Element): void {
  for (const { name, value } of next.attributes)
    if (old.getAttribute(name) !== value) old.setAttribute(name, value);
  if (old.attributes.length === next.attributes.length) return;
  for (const name of old.getAttributeNames()) if (!next.hasAttribute(name)) old.removeAttribute(name);
}
