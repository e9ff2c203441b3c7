/** Words and spaces that stand there twice. */
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";
import { rewritten, textsIn } from "../rewrite";

const TWICE = /(?<![\p{L}\p{N}-])(\p{L}{2,})\s+\1(?![\p{L}\p{N}-])/giu;
/** What is rightly said twice. */
const MEANT = new Set(["had", "that", "sie", "die", "der", "das", "nous", "vous", "bye", "very"]);
const SPACES = /(?<=\S) {2,}(?=\S)/g;

const onceEach = (text: string) =>
  text.replace(TWICE, (whole, word: string) => (MEANT.has(word.toLowerCase()) ? whole : word));

function twice(email: Email): Finding[] {
  return blocksOf(email).flatMap((block): Finding[] => {
    const texts = textsIn(block);
    const words = texts
      .flatMap((text) => [...text.matchAll(TWICE)])
      .filter(([, word]) => !MEANT.has(word.toLowerCase()))
      .map(([whole]) => whole);
    const spaces = texts.some((text) => text.search(SPACES) >= 0);
    return [
      ...words.slice(0, 1).map(
        (whole): Finding => ({
          weight: "look",
          text: `“${whole}” says a word twice. Take one out.`,
          block: block.id,
          mend: mendBy("Say it once", email, rewritten(block, onceEach)),
        }),
      ),
      ...(spaces
        ? [
            {
              weight: "could" as const,
              text: "There are two spaces in a row. Take one out.",
              block: block.id,
              mend: mendBy(
                "One space",
                email,
                rewritten(block, (text) => text.replace(SPACES, " ")),
              ),
            },
          ]
        : []),
    ];
  });
}

export const twiceCheck: Check = {
  name: "twice",
  group: "content",
  label: "words and spaces once each",
  why: "The eye passes over it while writing, and never while reading.",
  spoken: true,
  design: twice,
};
