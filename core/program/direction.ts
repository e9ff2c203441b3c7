/** Which way a line of words runs. */
export type Direction = "ltr" | "rtl";

const SCRIPTS = /^(arab|aran|hebr|syrc|thaa|nkoo|adlm|rohg|mand|samr|mend)$/i;
const LANGUAGES = /^(ar|arc|ckb|dv|fa|he|iw|ku-arab|ks|nqo|ps|sd|syr|ug|ur|yi)$/i;

/** Which way a language is written, by its tag: its script where one is named, else the language's own. */
export function directionOf(language: string): Direction {
  const [tag, ...rest] = language.split(/[-_]/);
  const script = rest.find((part) => part.length === 4 && /^[a-z]+$/i.test(part));
  return (script ? SCRIPTS.test(script) : LANGUAGES.test(tag)) ? "rtl" : "ltr";
}

const STRONG = /[\p{L}\p{N}]/u;
const RIGHT_TO_LEFT =
  /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc\u{10800}-\u{10fff}\u{1e800}-\u{1efff}\u200f]/u;

/** Which way words run by themselves: by their first letter or digit; null for words without any. */
export function directionOfWords(text: string): Direction | null {
  for (const sign of text) {
    if (RIGHT_TO_LEFT.test(sign)) return "rtl";
    if (STRONG.test(sign)) return "ltr";
  }
  return null;
}
