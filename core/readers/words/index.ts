/** What pages for readers say, in the languages there are. */
import { baseOf } from "../../translation";
import { de } from "./de";
import { en } from "./en";
import { es } from "./es";
import { fr } from "./fr";
import { it } from "./it";
import { nl } from "./nl";
import { pl } from "./pl";
import { pt } from "./pt";
import type { Words } from "./words";

export const WORDS: Readonly<Record<string, Words>> = { en, de, fr, es, it, nl, pt, pl };

/** What is said to readers for whom a link does nothing: the words of such a refusal. */
export type Said = {
  [K in keyof Words]: K extends `no${Capitalize<string>}` ? K : never;
}[keyof Words];

/** A language of the pages. */
export interface Tongue {
  language: string;
  words: Words;
}

/** Words with what differs put in, by name. */
export const put = (words: string, values: Readonly<Record<string, string>>): string =>
  words.replace(/\{(\w+)\}/g, (whole, name) => values[name] ?? whole);

/** The first of the languages named in which there are words; English where there are none. @param wanted as BCP 47 tags */
export function tongueOf(...wanted: readonly (string | null | undefined)[]): Tongue {
  for (const one of wanted) {
    const language = one ? baseOf(one.trim()) : "";
    if (Object.hasOwn(WORDS, language)) return { language, words: WORDS[language] };
  }
  return { language: "en", words: en };
}

/** The languages of an Accept-Language header, the most wanted first (RFC 9110, 12.5.4). */
export function languagesAsked(header: string): string[] {
  return header
    .slice(0, 500)
    .split(",")
    .map((part) => {
      const [tag, ...parameters] = part.trim().split(";");
      const quality = parameters.map((it) => /^\s*q=([\d.]+)\s*$/.exec(it)?.[1]).find(Boolean);
      return { tag, quality: quality === undefined ? 1 : Number(quality) };
    })
    .filter(({ tag, quality }) => /^[a-z]{1,8}(-[a-z0-9]{1,8})*$/i.test(tag) && quality > 0)
    .sort((one, other) => other.quality - one.quality)
    .map(({ tag }) => tag);
}
