/** Words that no dictionary of their language knows. */
import { blocksOf, type Email, eachPiece, type Inline } from "../../email";
import type { Check } from "../check";
import { type Circumstances, type Finding, mendBy } from "../finding";
import { rewritten } from "../rewrite";
import { finding, inWords, saidIn } from "../said";

/** Stands for whatever is no word: what is written for each reader, addresses. It touches no word that is looked up. */
const OTHER = "\ufffc";
const ADDRESS = /\S+@\S+|https?:\/\/\S+|(?:[\p{L}\d-]+\.)+\p{L}{2,}(?:\/\S*)?/gu;
const WORD = /[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*/gu;
/** What makes a word part of something else: a number, a name of a program. */
const TOUCHES = /[\d_@#/\\\ufffc]/u;
const LARGE = /^\p{Lu}/u;
/** Where a sentence begins, everybody writes large letters. */
const BEGINS = /(?:^|[.!?:…]["”’)]?\s+|["“‘(–]\s*|\ufffc\s*)$/u;

/** A line as it is said, with whatever differs from reader to reader left out. */
const plainly = (line: readonly Inline[]): string[] => [
  line
    .map((it) => (it.type === "text" ? it.text : it.type === "hardBreak" ? "\n" : OTHER))
    .join("")
    .replace(ADDRESS, OTHER),
  ...[...eachPiece(line)].flatMap((it) =>
    it.type === "either"
      ? [...it.attrs.cases.map(({ words }) => words), it.attrs.otherwise].flatMap(plainly)
      : [],
  ),
];

/** The words of a text that a dictionary may be asked for: neither names nor what is no word. */
export function wordsToSpell(text: string, nouns: "large" | "small"): string[] {
  const all = [...text.matchAll(WORD)];
  // Several words that all begin large are a name, or a title that names something.
  if (nouns === "small" && all.length > 1 && all.every(([word]) => LARGE.test(word))) return [];
  return all.flatMap(({ 0: word, index }) => {
    const before = text.slice(0, index);
    if (TOUCHES.test(before.at(-1) ?? "") || TOUCHES.test(text[index + word.length] ?? "")) return [];
    // Initials and names of programs are written as they are.
    if (word.length < 2 || /\p{Lu}/u.test(word.slice(1))) return [];
    // In the middle of a sentence a large letter begins a name, but where all nouns have one.
    if (nouns === "small" && LARGE.test(word) && !BEGINS.test(before)) return [];
    return [word];
  });
}

/** So many words are told of one place, and for so many in all it is worked out what may be meant. */
const TOLD = 3;
const SUGGESTED = 12;

function spelling(email: Email, { spelling: spellerOf }: Circumstances): Finding[] {
  const speller = spellerOf?.(email.language);
  if (!speller) return [];
  const nouns = email.language.startsWith("de") ? "large" : "small";
  const known = new Map<string, boolean>();
  const knows = (word: string) => {
    const plain = word.replaceAll("’", "'");
    const before = known.get(plain) ?? (speller.knows(plain) || speller.knows(plain.replace(/'s$/, "")));
    known.set(plain, before);
    return before;
  };
  let suggested = 0;
  const meanings = new Map<string, string | undefined>();
  const meant = (word: string) => {
    if (!meanings.has(word) && suggested++ < SUGGESTED) meanings.set(word, speller.suggests(word)[0]);
    return meanings.get(word);
  };
  const places = new Map<string, { where: string; block?: string; words: string[] }>();
  for (const { line, where, block } of saidIn(email)) {
    const words = plainly(line)
      .flatMap((text) => wordsToSpell(text, nouns))
      .filter((word) => !knows(word))
      // What begins large and is like no other word is a name.
      .filter((word) => !LARGE.test(word) || meant(word) !== undefined);
    if (words.length === 0) continue;
    const key = `${block} ${where}`;
    const place = places.get(key) ?? { where, block, words: [] };
    place.words.push(...words.filter((word) => !place.words.includes(word)));
    places.set(key, place);
  }
  const blocks = new Map(blocksOf(email).map((block) => [block.id, block]));
  return [...places.values()].map(({ where, block: id, words }): Finding => {
    const some = words.slice(0, TOLD);
    const pairs = some.flatMap((word): [string, string][] => {
      const better = meant(word);
      return better ? [[word, better]] : [];
    });
    const block = blocks.get(id ?? "");
    const more = words.length > some.length ? ` and ${words.length - some.length} more` : "";
    const remedy =
      pairs.length > 0
        ? `Perhaps ${inWords(pairs.map(([, better]) => `“${better}”`))} is meant; keep a word of your own, and it is known from then on.`
        : "Write it otherwise, or keep it as a word of your own.";
    const text = `says ${inWords(some.map((word) => `“${word}”`))}${more}, which no dictionary here knows. ${remedy}`;
    return {
      ...finding("look", { where, block: id }, text),
      unknown: words,
      ...(block &&
        pairs.length > 0 && {
          mend: mendBy(
            `Write ${inWords(pairs.map(([, better]) => `“${better}”`))}`,
            email,
            rewritten(block, (said) =>
              said.replace(WORD, (word) => pairs.find(([one]) => one === word)?.[1] ?? word),
            ),
          ),
        }),
    };
  });
}

export const spellingCheck: Check = {
  name: "spelling",
  group: "content",
  label: "words that the dictionary knows",
  why: "A word that is spelt wrong is what a reader remembers of the sentence.",
  spoken: true,
  design: spelling,
};
