/** Dates, numbers and yes or no, as people write them. */
import { isDay } from "../audience";

export type DateOrder = "dmy" | "mdy";

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
const two = (number: number) => String(number).padStart(2, "0");

/**
 * A day as `YYYY-MM-DD`, or null when it is none. A time after it is left out. A year of two digits is of this century
 * when it is not after `thisYear`, else of the last.
 * @param order how days are written that do not begin with the year
 */
export function readDate(text: string, order: DateOrder, thisYear: number): string | null {
  const bare = text
    .trim()
    .replace(/[T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?\s*(Z|UTC|[+-]\d{2}:?\d{2}|[ap]m)?$/i, "");
  const year = (digits: string): number => {
    const number = Number(digits);
    if (digits.length > 2) return number;
    return number + (number > thisYear % 100 ? 1900 : 2000);
  };
  const made = (y: number, m: number, d: number) => {
    const day = `${String(y).padStart(4, "0")}-${two(m)}-${two(d)}`;
    return isDay(day) ? day : null;
  };
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/.exec(bare) ?? /^(\d{4})(\d{2})(\d{2})$/.exec(bare);
  if (iso) return made(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const short = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+(\d{2}|\d{4})$/.exec(bare);
  if (short) {
    const [day, month] = order === "dmy" ? [short[1], short[2]] : [short[2], short[1]];
    return made(year(short[3]), Number(month), Number(day));
  }
  const words = /^(\d{1,2})[. -]+([a-z]{3})[a-z]*[., -]+(\d{4})$/i.exec(bare);
  const turned = /^([a-z]{3})[a-z]*[. ]+(\d{1,2})(?:st|nd|rd|th)?,? +(\d{4})$/i.exec(bare);
  const [day, name, y] = words
    ? [words[1], words[2], words[3]]
    : turned
      ? [turned[2], turned[1], turned[3]]
      : [];
  const month = name === undefined ? -1 : MONTHS.indexOf(name.toLowerCase());
  return month < 0 ? null : made(Number(y), month + 1, Number(day));
}

/** What stands before or after a sum: the sign of a currency, or its code (ISO 4217). */
const CURRENCY = /^(\p{Sc}|[A-Z]{3}(?=[\s\d+-]))\s*|\s*(\p{Sc}|(?<=[\s\d])[A-Z]{3})$/gu;
/** What parts thousands besides points and commas. */
const THOUSANDS = /(?<=\d)[\s\u00a0\u202f'’](?=\d{3}(?!\d))/g;

/** A number, or null when it is none. Signs of currencies and groups of thousands are left out. */
export function readNumber(text: string, decimal: "." | ","): number | null {
  const bare = text.trim().replace(CURRENCY, "").replace(THOUSANDS, "");
  const group = decimal === "," ? "." : ",";
  const shape =
    decimal === "," ? /^[+-]?(\d{1,3}(\.\d{3})+|\d+)(,\d+)?$/ : /^[+-]?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$/;
  if (!shape.test(bare)) return null;
  const number = Number(bare.replaceAll(group, "").replace(",", "."));
  return Number.isFinite(number) ? number : null;
}

const YES = new Set([
  "yes",
  "y",
  "true",
  "1",
  "x",
  "on",
  "ja",
  "j",
  "oui",
  "o",
  "vrai",
  "wahr",
  "si",
  "sí",
  "sì",
  "tak",
  "sim",
]);
const NO = new Set([
  "no",
  "n",
  "false",
  "0",
  "off",
  "nein",
  "non",
  "faux",
  "falsch",
  "nee",
  "nie",
  "não",
  "nao",
  "-",
]);

/** Yes or no, or null when it is neither. */
export function readBoolean(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  return YES.has(word) ? true : NO.has(word) ? false : null;
}
