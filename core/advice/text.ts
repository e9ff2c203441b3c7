export type AdviceKind = "long" | "wordy" | "shouting" | "passive";

/** A place in a text and what to do about it. `from` and `to` are offsets in UTF-16 units. */
export interface Advice {
  kind: AdviceKind;
  from: number;
  to: number;
  words: string;
  why: string;
  /** What could stand there instead; null when there is no one answer. */
  instead: string | null;
}

/** Sentences with more words than this are hard to follow in a letter. */
const LONG = 25;

const WORDY: Record<string, string> = {
  "in order to": "to",
  "due to the fact that": "because",
  "at this point in time": "now",
  "in the event that": "if",
  "a large number of": "many",
  "a number of": "some",
  "for the purpose of": "for",
  "with regard to": "about",
  "with respect to": "about",
  "in addition to": "besides",
  "prior to": "before",
  "subsequent to": "after",
  "is able to": "can",
  "are able to": "can",
  "has the ability to": "can",
  "in spite of": "despite",
  "the majority of": "most",
  "make use of": "use",
  "take advantage of": "use",
  "at the present time": "now",
  "in the near future": "soon",
  "each and every": "every",
  "first and foremost": "first",
  "please do not hesitate to": "please",
  "we are pleased to announce that": "",
  "it should be noted that": "",
  "needless to say": "",
  utilise: "use",
  utilize: "use",
  commence: "begin",
  terminate: "end",
  approximately: "about",
  additional: "more",
  purchase: "buy",
  assistance: "help",
  "very unique": "unique",
};

const PARTICIPLES =
  "been|made|done|given|taken|seen|shown|written|grown|sown|chosen|known|held|kept|sent|sold|bought|brought|built|found|put|set|told";
const PASSIVE = new RegExp(
  `\\b(?:is|are|was|were|be|been|being)\\s+(?:\\w+ly\\s+)?(\\w{3,}ed|${PARTICIPLES})\\b`,
  "gi",
);

/** Everything in a text that could be read more easily, in the order of the text. */
export function adviseText(text: string): Advice[] {
  const found: Advice[] = [];
  const add = (kind: AdviceKind, from: number, to: number, why: string, instead: string | null = null) =>
    found.push({ kind, from, to, words: text.slice(from, to), why, instead });
  for (const { from, to } of sentences(text)) {
    const count = wordsIn(text.slice(from, to));
    if (count > LONG)
      add("long", from, to, `${count} words in one sentence. Two sentences are read more easily.`);
  }
  for (const [phrase, instead] of Object.entries(WORDY)) {
    for (const match of text.matchAll(new RegExp(`\\b${phrase}\\b`, "gi"))) {
      const at = match.index;
      add(
        "wordy",
        at,
        at + match[0].length,
        instead === "" ? "It says nothing. Leave it out." : `“${instead}” says the same.`,
        /^[A-Z]/.test(match[0]) && instead !== "" ? instead[0].toUpperCase() + instead.slice(1) : instead,
      );
    }
  }
  for (const match of text.matchAll(/\b\p{Lu}{4,}\b(?:\s+\p{Lu}{2,}\b)*/gu)) {
    add(
      "shouting",
      match.index,
      match.index + match[0].length,
      "Capitals read as shouting, and spam filters count them.",
    );
  }
  for (const match of text.matchAll(/[!?]{2,}/g)) {
    add(
      "shouting",
      match.index,
      match.index + match[0].length,
      "One sign is enough.",
      match[0].includes("?") ? "?" : "!",
    );
  }
  for (const match of text.matchAll(PASSIVE)) {
    add("passive", match.index, match.index + match[0].length, "Say who does it, if it matters.");
  }
  return found.sort((a, b) => a.from - b.from || a.to - b.to);
}

function sentences(text: string): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  for (const match of text.matchAll(/[^.!?…\n]+[.!?…]*/g)) {
    const lead = match[0].length - match[0].trimStart().length;
    const body = match[0].trim();
    if (body !== "") found.push({ from: match.index + lead, to: match.index + lead + body.length });
  }
  return found;
}

const wordsIn = (text: string) => text.match(/[\p{L}\p{N}][\p{L}\p{N}’'-]*/gu)?.length ?? 0;

/**
 * How easily an English text is read, from 0 (hardly) to 100 (a child can): the reading ease of R. Flesch, "A new
 * readability yardstick", 1948. Null when there are too few words to say.
 */
export function readingEase(text: string): number | null {
  const words = text.match(/[\p{L}][\p{L}’'-]*/gu) ?? [];
  if (words.length < 20) return null;
  const count = Math.max(
    1,
    sentences(text).filter(({ from, to }) => wordsIn(text.slice(from, to)) > 0).length,
  );
  const syllables = words.reduce((sum, word) => sum + syllablesOf(word), 0);
  const score = 206.835 - 1.015 * (words.length / count) - 84.6 * (syllables / words.length);
  return Math.round(Math.min(100, Math.max(0, score)));
}

/** Groups of vowels, but for a silent e at the end. */
function syllablesOf(word: string): number {
  const plain = word.toLowerCase().replace(/[^a-z]/g, "");
  const groups = plain.replace(/(?:[^laeiouy]es|ed|[^laeiouy]e)$/, "").match(/[aeiouy]+/g);
  return Math.max(1, groups?.length ?? 1);
}
