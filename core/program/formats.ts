/** Formatters of the platform, which are dear to make and few: each is made once. */
const dates = new Map<string, Intl.DateTimeFormat>();
const numbers = new Map<string, Intl.NumberFormat>();
const lists = new Map<string, Intl.ListFormat>();

function once<T>(kept: Map<string, T>, key: string, make: () => T): T {
  let one = kept.get(key);
  if (one === undefined) {
    one = make();
    kept.set(key, one);
  }
  return one;
}

/** A language as Intl takes it (BCP 47), also when written `en_GB`; English for one that is no language tag. */
export function localeOf(language: string): string {
  try {
    const [tag] = Intl.getCanonicalLocales(language.replaceAll("_", "-"));
    return tag === "en" || tag === undefined ? "en-GB" : tag;
  } catch {
    return "en-GB";
  }
}

/**
 * A formatter of dates.
 * @throws RangeError when the options name a time zone that does not exist
 */
export function dateFormat(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  return once(dates, `${locale} ${JSON.stringify(options)}`, () => new Intl.DateTimeFormat(locale, options));
}

/** A day that begins a date, as French says it: "1er août", which the formatter leaves at "1 août". */
const FIRST = /(?<![\d])1(?= \p{L})/u;

/** A date in words. */
export function dateWords(locale: string, options: Intl.DateTimeFormatOptions, at: Date): string {
  const words = dateFormat(locale, options).format(at);
  return /^fr\b/.test(locale) ? words.replace(FIRST, "1er") : words;
}

/** Yes and no, by the base of a language; in English where it is not known. */
const YES_NO: Readonly<Record<string, readonly [yes: string, no: string]>> = {
  en: ["yes", "no"],
  de: ["ja", "nein"],
  fr: ["oui", "non"],
  es: ["sí", "no"],
  it: ["sì", "no"],
  pt: ["sim", "não"],
  nl: ["ja", "nee"],
  pl: ["tak", "nie"],
  cs: ["ano", "ne"],
  sk: ["áno", "nie"],
  sv: ["ja", "nej"],
  da: ["ja", "nej"],
  nb: ["ja", "nei"],
  no: ["ja", "nei"],
  fi: ["kyllä", "ei"],
  hu: ["igen", "nem"],
  ro: ["da", "nu"],
  el: ["ναι", "όχι"],
  tr: ["evet", "hayır"],
  ru: ["да", "нет"],
  uk: ["так", "ні"],
  ar: ["نعم", "لا"],
  he: ["כן", "לא"],
  ja: ["はい", "いいえ"],
  zh: ["是", "否"],
  ko: ["예", "아니요"],
};

/** Yes or no in words. */
export function yesNo(language: string, yes: boolean): string {
  const [base] = language.toLowerCase().split("-");
  return (YES_NO[base] ?? YES_NO.en)[yes ? 0 : 1];
}

/** A formatter of lists: "a, b and c". */
export function listFormat(locale: string): Intl.ListFormat {
  return once(lists, locale, () => new Intl.ListFormat(locale, { type: "conjunction" }));
}

/** A formatter of amounts of money. @param currency its code (ISO 4217) */
export function moneyFormat(locale: string, currency: string): Intl.NumberFormat {
  return once(
    numbers,
    `${locale} ${currency}`,
    () => new Intl.NumberFormat(locale, { style: "currency", currency }),
  );
}

/** A sum in words of a locale; without a currency (ISO 4217) a number. */
export function sumWords(locale: string, sum: number, currency?: string): string {
  return (currency ? moneyFormat(locale, currency) : numberFormat(locale)).format(sum);
}

/** A formatter of numbers. */
export function numberFormat(locale: string): Intl.NumberFormat {
  return once(numbers, locale, () => new Intl.NumberFormat(locale));
}
