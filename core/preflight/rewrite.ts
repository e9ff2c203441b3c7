/** The words of a block, piece by piece: read, and written anew. */
import { wordsOf } from "../blocks";
import { type Command, commands } from "../compose";
import { type Block, eachPiece, type Inline, linesOf, mapCaseWords, mapLines, same } from "../email";

/** Pieces of words with the text of each gone through a function, those within either/ors among them. */
const retexted = (line: readonly Inline[], change: (text: string) => string): Inline[] =>
  line.map((it): Inline => {
    if (it.type === "text") return { ...it, text: change(it.text) };
    return it.type === "either" ? mapCaseWords(it, (words) => retexted(words, change)) : it;
  });

/** Goes over all words of a block. */
export const rewritten =
  (block: Block, change: (text: string) => string): Command =>
  (edit) => {
    for (const { path, words } of wordsOf(block)) {
      const next = mapLines(words, (line) => retexted(line, change));
      if (!same(next, words)) commands.setAt(block.id, path, next)(edit);
    }
  };

/** What the pieces of a block’s words say, each by itself. */
export const textsIn = (block: Block): string[] =>
  wordsOf(block).flatMap(({ words }) =>
    linesOf(words).flatMap((line) =>
      [...eachPiece(line)].flatMap((it) => (it.type === "text" ? [it.text] : [])),
    ),
  );
