/** Dictionaries, and the words of the workspace’s own that they do not know. */
import dictionaryEn from "dictionary-en";
import dictionaryEnGb from "dictionary-en-gb";
import nspell from "nspell";
import type { Brand } from "~/core/email";
import type { Speller } from "~/core/preflight";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";
import { brandOf, setBrand } from "../workspace/settings";

/** The dictionaries of a language, by its tag’s first part: a word that one of them knows is a word. */
const DICTIONARIES: Readonly<Record<string, readonly { aff: Uint8Array; dic: Uint8Array }[]>> = {
  en: [dictionaryEn, dictionaryEnGb],
};

/** So many words are kept. */
const MOST = 2000;
const LETTERS = /[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*/gu;
const plain = (word: string) => word.replaceAll("’", "'").toLowerCase();

/** All that a brand says of itself is a word. */
const ownWords = ({ name, address, senders, words = [] }: Brand): Set<string> =>
  new Set(
    [name, address, ...senders.map((sender) => sender.name), ...words].flatMap((text) =>
      [...text.matchAll(LETTERS)].map(([word]) => plain(word)),
    ),
  );

/** Hands that write fast change the order of letters before they leave one out: words of the same letters come first. */
const likeliest = (word: string, suggested: readonly string[]): string[] => {
  const letters = (one: string) => [...plain(one)].sort().join("");
  const other = (one: string) => Number(letters(one) !== letters(word));
  return suggested.toSorted((one, two) => other(one) - other(two));
};

/**
 * Looks words up, by language; nothing for one that has no dictionary here. A dictionary is read when it is first asked for,
 * which takes a fifth of a second.
 */
export async function spellingOf(
  septima: Septima,
  languages: readonly string[],
): Promise<(language: string) => Speller | null> {
  const own = ownWords(await brandOf(septima));
  const spellers = new Map<string, Speller>();
  for (const key of new Set(languages.map((one) => one.split("-")[0]))) {
    const files = DICTIONARIES[key];
    if (!files) continue;
    const read = await cached(septima, `dictionary ${key}`, async () =>
      files.map(({ aff, dic }) => nspell(Buffer.from(aff), Buffer.from(dic))),
    );
    spellers.set(key, {
      knows: (word) => own.has(plain(word)) || read.some((one) => one.correct(word)),
      suggests: (word) => likeliest(word, [...new Set(read.flatMap((one) => one.suggest(word)))]),
    });
  }
  return (language) => spellers.get(language.split("-")[0]) ?? null;
}

/**
 * Keeps words as those of the workspace’s own: no dictionary is asked for them any more.
 * @throws Refusal when there are too many
 */
export async function keepWords(septima: Septima, words: readonly string[]): Promise<void> {
  const brand = await brandOf(septima);
  const all = [...new Set([...(brand.words ?? []), ...words.map((word) => word.trim())])].filter(
    (word) => word !== "",
  );
  if (all.length > MOST)
    throw new Refusal(`${MOST} words of your own are kept at most. Take some out under Brand.`);
  await setBrand(septima, { ...brand, words: all });
}
