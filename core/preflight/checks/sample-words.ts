import { type BlockTypeName, blockType, createBlock, textsOf, wordsOf } from "../../blocks";
import { LAYOUTS } from "../../compose";
import { type Block, blocksOf, type Email, inlineText, linesOf } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";
import { short } from "../said";

/** What a block says that somebody was to write, by its places: words, and the texts that readers see. */
const toBeWritten = (block: Block): { path: string; said: string }[] =>
  [
    ...wordsOf(block).map(({ path, words, stays }) => ({
      path,
      stays,
      said: linesOf(words).map(inlineText).join("\n"),
    })),
    ...textsOf(block).map(({ path, text, stays }) => ({ path, stays, said: text })),
  ].filter(({ said, stays }) => said !== "" && !stays);

let layoutWords: Set<string> | null = null;
/** The words that layouts begin with. */
function samplesOfLayouts(): Set<string> {
  layoutWords ??= new Set(
    LAYOUTS.flatMap((layout) => {
      let next = 0;
      const sections = layout.sections(() => `sample-${next++}`);
      const email = { sections } as Email;
      return blocksOf(email).flatMap((block) => toBeWritten(block).map(({ said }) => said));
    }),
  );
  return layoutWords;
}

function sampleWords(email: Email): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] => {
    const type = blockType(block.type);
    if (!type || block.type === "unreadable") return [];
    const fresh = createBlock(block.type as BlockTypeName, block.id) as Block;
    const came = new Map(toBeWritten(fresh).map(({ path, said }) => [path, said]));
    const left = toBeWritten(block).find(
      ({ path, said }) => came.get(path) === said || samplesOfLayouts().has(said),
    );
    if (!left) return [];
    const said = left.said.replaceAll("\n", " ");
    return [
      {
        weight: "look",
        text: `${type.label} “${short(said, 50)}” still says what it came with. Write it, or delete the block.`,
        block: block.id,
      },
    ];
  });
}

export const sampleWordsCheck: Check = {
  name: "sample-words",
  group: "content",
  label: "words of one’s own",
  why: "Nothing says louder that nobody looked.",
  design: sampleWords,
};
