import { createBlock } from "../blocks";
import type { Block, Inline } from "../email";
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
    case "table": {
      const columns = piece.rows[0].length;
      return {
        ...createBlock("table", id),
        rows: piece.rows.map((row): Inline[][] => row.map((cell) => cell)),
        columns: piece.rows[0].map(() => ({
          width: Math.round(10_000 / columns) / 100,
          align: "left" as const,
        })),
        header: piece.header,
      };
    }
    case "divider":
      return createBlock("divider", id);
  }
}
