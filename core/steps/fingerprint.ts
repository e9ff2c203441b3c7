import {
  type AnyNode,
  CHILDREN,
  canonical,
  childNodes,
  type Email,
  type Kind,
  ownOf,
  remembered,
} from "../email";

/** FNV-1a, twice 32 bits. */
function hash(text: string): string {
  let [a, b] = [0x811c9dc5, 0x01000193];
  for (let index = 0; index < text.length; index++) {
    const unit = text.charCodeAt(index);
    a = Math.imul(a ^ unit, 0x01000193);
    b = Math.imul(b ^ (unit + index), 0x85ebca6b);
  }
  return [a, b].map((half) => (half >>> 0).toString(16).padStart(8, "0")).join("");
}

/** Of what a node has itself, and of what it holds: nothing that stayed the same is gone through again. */
function printOf(kind: Kind | "email", node: object): string {
  const down = CHILDREN[kind];
  const inside = down ? childNodes(kind, node).map(PRINTS[down.kind]).join() : "";
  return hash(canonical(ownOf(kind, node)) + inside);
}

const PRINTS = Object.fromEntries(
  (["section", "row", "column", "block"] as const).map((kind) => [
    kind,
    remembered((node: AnyNode) => printOf(kind, node)),
  ]),
) as Record<Kind, (node: AnyNode) => string>;

/** A short text that is equal for equal documents, to find out whether two sides have the same. */
export const fingerprint = (email: Email): string => printOf("email", email);
