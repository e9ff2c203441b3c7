import type { Item } from "./item";

/** So long a word is compared, in UTF-16 units. */
const LONGEST = 60;

/** The words of a text as searches compare them: in small letters without accents, each once. */
export function searchWords(text: string): string[] {
  const words = text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .replace(/ß/g, "ss")
    .split(/[^\p{L}\p{N}]+/u)
    .flatMap((word) => (word === "" ? [] : [word.slice(0, LONGEST).toWellFormed()]));
  return [...new Set(words)];
}

/** So much of what an item says is searched, in characters. */
const MOST = 2000;

/** What an item is found by: its words, its category and tags, where it takes place, and what its facts say. */
export function foundBy(item: Item): string[] {
  const said = Object.values(item.facts).filter((value) => typeof value === "string" || Array.isArray(value));
  return searchWords(
    [item.title, item.id, ...item.category, ...item.tags, item.place ?? "", ...said.flat(), item.text]
      .join(" ")
      .slice(0, MOST),
  );
}
