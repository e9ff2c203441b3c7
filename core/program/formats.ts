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

/** A formatter of numbers. */
export function numberFormat(locale: string): Intl.NumberFormat {
  return once(numbers, locale, () => new Intl.NumberFormat(locale));
}
