import { blockType, wordsOf } from "../blocks";
import { blocksOf, type Email, isRichDoc, type Words } from "../email";
import type { Letter, LetterPart } from "./wire";
import { writtenOut } from "./words";

const idOf = (block: string, path: string) => `${block} ${path}`;

/** A letter as an assistant gets it: every place that holds words, in reading order; the footer is not its business. */
export function letterOf(email: Email): Letter {
  const { subject, preheader } = email.envelope;
  return {
    subject: writtenOut(subject),
    preheader: writtenOut(preheader),
    places: blocksOf(email)
      .filter(({ type }) => type !== "footer" && blockType(type) !== undefined)
      .flatMap((block) =>
        wordsOf(block).map(
          ({ path, words }): LetterPart => ({
            id: idOf(block.id, path),
            kind: blockType(block.type)!.label.toLowerCase(),
            form: isRichDoc(words) ? "paragraphs" : "line",
            text: writtenOut(words).slice(0, 20_000),
          }),
        ),
      )
      .filter(({ text }) => text.trim() !== ""),
  };
}

/** Where words stand that an answer is meant for; undefined when they are gone. */
export function placeOf(
  email: Email,
  id: string,
): { block: string; path: string; label: string; words: Words } | undefined {
  for (const block of blocksOf(email)) {
    if (!id.startsWith(`${block.id} `)) continue;
    const place = wordsOf(block).find(({ path }) => idOf(block.id, path) === id);
    if (place) return { ...place, block: block.id, label: blockType(block.type)?.label ?? block.type };
  }
  return undefined;
}
