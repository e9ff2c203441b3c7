/** Typed tags in HTML that has been made harmless: each is written as safe as its place asks. */
import { type Known, type Landing, readTyped, typedString, typedTag } from "../../email";
import type { Writer } from "../../program";

interface Around {
  known: Known;
  out: Writer;
}

const ENTITIES: Readonly<Record<string, string>> = {
  "&lt;": "<",
  "&gt;": ">",
  "&quot;": '"',
  "&#39;": "'",
  "&amp;": "&",
};
const plain = (html: string) => html.replace(/&(?:lt|gt|quot|#39|amp);/g, (entity) => ENTITIES[entity]);

/** Where the value of an attribute lands; null for one in which no reader's words may stand. */
function landingOf(name: string): Landing | null {
  if (name === "href") return "link";
  if (name === "src" || name === "background") return "src";
  return /^(alt|title|aria-label)$/.test(name) ? "attribute" : null;
}

/** Clean HTML with marks in place of its tags. Where no reader's words may stand, as in styles, they are left out. */
export function withTags(html: string, around: Around): string {
  if (!html.includes("{$")) return html;
  const write = (text: string, landing: Landing) => typedString(plain(text), landing, around);
  return html.replace(/<!--[\s\S]*?-->|<[^>]*>|[^<]+/g, (piece) => {
    if (!piece.includes("{$")) return piece;
    if (piece.startsWith("<!--")) return piece.replaceAll("{$", "");
    if (!piece.startsWith("<")) return write(piece, "html");
    return piece.replace(/([\w:-]+)="([^"]*)"/g, (attribute, name: string, value: string) => {
      if (!value.includes("{$")) return attribute;
      const landing = landingOf(name);
      return `${name}="${landing === null ? "" : write(value, landing)}"`;
    });
  });
}

/** The words of the text part with marks in place of their tags; those in an address are a piece of it. */
export function textWithTags(text: string, around: Around): string {
  let before = "";
  return readTyped(text)
    .pieces.map((piece) => {
      if (typeof piece === "string") {
        before = piece;
        return piece;
      }
      const inAddress = /\(https?:[^\s)]*$/i.test(before);
      before += inAddress ? "x" : " ";
      return typedString(typedTag(piece), inAddress ? "piece" : "text", around);
    })
    .join("");
}
