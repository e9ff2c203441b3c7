import type { Block, Inline, RichDoc } from "../email";
import { blocksFrom } from "../writing";
import { AnsweredSchema, AnswerSchema, type Letter, readShape, type ToldField } from "./wire";
import {
  bare,
  cleaned,
  differingIn,
  LONGEST_LINE,
  lineOf,
  pieces,
  proseOf,
  unknownData,
  withReaderData,
} from "./words";

/** What is made of an answer: something to read, or words ready to be put in. */
export type Answer = {
  /** As it came, without signs that are not words. */
  text: string;
} & (
  | { put: "subject" | "preheader"; words: Inline[] }
  | { put: "place"; place: string; words: Inline[] | RichDoc }
  /** Blocks of their own: meant to be put in, or only to be read unless somebody wants them. */
  | { put: "new" | "nothing"; blocks: Block[] }
);

/** How many answers are of use at once. */
const MOST = 20;

/**
 * Reads answers to a question about a letter. One that is wrong is left out and said.
 * @returns the answers, and in words what was left out
 * @throws AssistantError when there is nothing to be read at all
 */
export async function readAnswers(
  raw: unknown,
  letter: Letter,
  fields: readonly ToldField[],
  newId: () => string,
): Promise<{ answers: Answer[]; dropped: string[] }> {
  const came = readShape(AnsweredSchema, raw).answers;
  const answers: Answer[] = [];
  const dropped: string[] = [];
  if (came.length > MOST) dropped.push(`${came.length - MOST} of its ${came.length} answers`);
  for (const one of came.slice(0, MOST)) {
    const read = AnswerSchema.safeParse(one);
    if (!read.success) {
      dropped.push("an answer without words, or with too many");
      continue;
    }
    const { for: target } = read.data;
    const text = cleaned(read.data.text);
    const written = await pieces(text);
    const place = letter.places.find(({ id }) => id === target);
    const before = target === "subject" || target === "preheader" ? letter[target] : (place?.text ?? "");
    const known = [...fields, ...differingIn(before)];
    if (target === undefined || target === "new") {
      const { parts, unknown } = withReaderData(blocksFrom(written, newId), fields);
      dropped.push(...unknown.map(unknownData));
      if (parts.length > 0) answers.push({ text, put: target ?? "nothing", blocks: parts });
    } else if (place?.form === "paragraphs") {
      const { parts, unknown } = withReaderData([{ content: proseOf(written) } as never as Block], known);
      dropped.push(...unknown.map(unknownData));
      const words = parts[0].content as RichDoc;
      if (words.content.length > 0) answers.push({ text, put: "place", place: target, words });
    } else if (place || target === "subject" || target === "preheader") {
      const { parts: words, unknown } = withReaderData(lineOf(written), known);
      dropped.push(...unknown.map(unknownData));
      if (text.length > LONGEST_LINE && !place) dropped.push(`a ${target} of ${text.length} characters`);
      else if (words.length > 0)
        answers.push(
          place
            ? { text, put: "place", place: target, words }
            : { text, put: target as "subject" | "preheader", words: bare(words) },
        );
    } else dropped.push("an answer for words that are not in this email");
  }
  return { answers, dropped: [...new Set(dropped)] };
}
