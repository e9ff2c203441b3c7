import { wordsOf } from "../blocks";
import { blocksOf, type Email, inlineText, linesOf } from "../email";

/** How far around a block its neighbours are looked for. */
const REACH = 3;

/**
 * Words that may say what a picture shows, nearest first: of its own block, then of headings before it, then of what
 * follows it. Long passages are left out: they say more than is seen.
 */
export function neighbourWords(email: Email, id: string): string[] {
  const blocks = blocksOf(email);
  const at = blocks.findIndex((block) => block.id === id);
  if (at < 0) return [];
  const near = [
    blocks[at],
    ...blocks.slice(Math.max(0, at - REACH), at).reverse(),
    ...blocks.slice(at + 1, at + 1 + REACH),
  ];
  return near
    .flatMap((block) => {
      if (block.type === "footer" || block.type === "button") return [];
      return wordsOf(block).flatMap(({ words }) => linesOf(words).slice(0, 1).map(inlineText));
    })
    .map((words) => words.replaceAll("\ufffc", "").trim())
    .filter((words) => words.length >= 3 && words.length <= 90)
    .slice(0, 3);
}
