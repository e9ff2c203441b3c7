import { createBlock, tableParts } from "../blocks";
import type { Block } from "../email";
import type { Piece } from "./html";

/** Makes blocks of pieces of writing, each as it comes from the shelf but for its content. */
export function blocksFrom(pieces: readonly Piece[], newId: () => string): Block[] {
  return pieces.map((piece) => block(piece, newId()));
}

function block(piece: Piece, id: string): Block {
  switch (piece.kind) {
    case "heading":
      return { ...createBlock("heading", id), level: piece.level, content: piece.content };
    case "words":
      return { ...createBlock("text", id), content: { type: "doc", content: piece.nodes } };
    case "quote": {
      const quote = createBlock("quote", id);
      return { ...quote, content: { type: "doc", content: piece.nodes }, source: [], off: ["source"] };
    }
    case "image": {
      const { src, alt, href } = piece;
      return { ...createBlock("image", id), src, alt, decorative: false, ...(href && { href }) };
    }
    case "button":
      return { ...createBlock("button", id), content: piece.content, href: piece.href };
    case "table":
      return { ...createBlock("table", id), ...tableParts(piece.rows), header: piece.header };
    case "divider":
      return createBlock("divider", id);
  }
}
