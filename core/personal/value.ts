import { addDays, type Contact, fieldValue, isDay } from "../audience";
import {
  COUNTED_OPENING,
  collapse,
  type Direction,
  dateWords,
  directionOf,
  directionOfWords,
  listFormat,
  localeOf,
  moneyFormat,
  numberFormat,
  type Slot,
  written,
  yesNo,
} from "../program";
import { baseOf } from "../translation";

/** A contact looked at as the recipient of one message. */
export interface Reader {
  contact: Contact;
  language: string;
  /** Which way the message runs around a value. */
  direction: Direction;
  /** Addresses made for this message. */
  system: SystemAddresses;
  /** The codes handed to them, by the key of their batch; missing where nobody is handed any, as in looks and proofs. */
  codes?: Readonly<Record<string, string>>;
}

/** Addresses made for one reader of one message. */
export interface SystemAddresses {
  unsubscribe: string;
  /** Where answers of a survey go; the block and the answer are added to it. */
  answer: string;
  /** Where friends join by this reader. */
  referral: string;
  /** Where the message itself is seen in a browser. */
  letter: string;
  /** Over which each counted link leads, by its place; where a message is made for good. */
  link?(place: number): string;
  /** The picture whose fetching counts an opening. */
  opening?: string;
}

/** Addresses for looks and proofs: pages that say so and change nothing. */
export function previewAddresses(origin: string): SystemAddresses {
  return {
    unsubscribe: `${origin}/unsubscribe/preview`,
    answer: `${origin}/answer/preview`,
    referral: `${origin}/join/preview`,
    letter: `${origin}/letter/preview`,
  };
}

/** A contact as a reader, in their own language or that of the email. */
export function readerOf(
  contact: Contact,
  language: string,
  system: SystemAddresses,
  codes?: Reader["codes"],
): Reader {
  const own = contact.fields.language;
  return {
    contact,
    language: typeof own === "string" && own !== "" ? own : language,
    direction: directionOf(language),
    system,
    ...(codes && { codes }),
  };
}

/** How a value is to be written. */
type Manner = Pick<Slot, "format" | "currency" | "days" | "language">;

/**
 * The language a value is written in: that of the words around it, as the reader's own country or script writes it. No
 * one reads a French date in an English sentence.
 */
function languageOf({ language: around }: Manner, { language: own }: Reader): string {
  return around === undefined || around === own || baseOf(around) === baseOf(own) ? own : around;
}

/** A reader's value in words, or null when it is missing, empty or of no use. */
export function readerValue(field: string, manner: Manner, reader: Reader): string | null {
  if (field === "system.unsubscribe") return reader.system.unsubscribe;
  if (field === "system.answer") return reader.system.answer;
  if (field === "system.referral") return reader.system.referral;
  if (field === "system.letter") return reader.system.letter;
  if (field === COUNTED_OPENING) return reader.system.opening ?? null;
  const text = formatValue(fieldValue(reader.contact, field), manner, languageOf(manner, reader));
  return text === "" ? null : text;
}

/** The words of a tag without its fallback: of its field or, for who lacks it, of the other; null without both. */
export function tagValue(
  slot: Manner & Pick<Slot, "field" | "or" | "given" | "example" | "link">,
  reader: Reader,
): string | null {
  const { field, or, given, link } = slot;
  if (link !== undefined) return reader.system.link?.(link) ?? null;
  if (given !== undefined) return formatValue(given, slot, languageOf(slot, reader));
  if (isCode(field)) return (reader.codes ? reader.codes[batchOf(field)] : slot.example) || null;
  return readerValue(field, slot, reader) ?? (or ? readerValue(or, slot, reader) : null);
}

const CODE = "code.";
/** Whether a tag asks for a code of a batch. */
export const isCode = (field: string): boolean => field.startsWith(CODE);
/** The batch that such a tag asks. */
export const batchOf = (field: string): string => field.slice(CODE.length);

/** Whether anything is stored in a field of a contact. */
export function hasValue(contact: Contact, field: string): boolean {
  const value = fieldValue(contact, field);
  return (
    value !== undefined && value !== null && value !== "" && !(Array.isArray(value) && value.length === 0)
  );
}

function formatValue(raw: unknown, { format, currency, days = 0 }: Manner, language: string): string {
  if (typeof raw === "boolean") return yesNo(language, raw);
  if (typeof raw === "number") {
    if (format === "money" && currency) return moneyFormat(localeOf(language), currency).format(raw);
    return format === "number" || format === "money"
      ? numberFormat(localeOf(language)).format(raw)
      : String(raw);
  }
  if (Array.isArray(raw)) {
    const parts = raw.filter((part) => typeof part === "string");
    return collapse(format === "list" ? listFormat(localeOf(language)).format(parts) : parts.join(", "));
  }
  if (typeof raw !== "string") return "";
  const text = collapse(raw);
  switch (format) {
    case "capital":
      return text.slice(0, 1).toLocaleUpperCase(localeOf(language)) + text.slice(1);
    case "upper":
      return text.toLocaleUpperCase(localeOf(language));
    case "lower":
      return text.toLocaleLowerCase(localeOf(language));
    default: {
      const look = DATES[format];
      if ((!look && days === 0) || !isDay(text)) return text;
      const day = days === 0 ? text : addDays(text, days);
      return look ? dateWords(localeOf(language), look, new Date(`${day}T00:00:00Z`)) : day;
    }
  }
}

const date = (options: Intl.DateTimeFormatOptions) => ({ ...options, timeZone: "UTC" });
/** How each format writes a date; what is no date of the calendar stays as it is. */
const DATES: Readonly<Record<string, Intl.DateTimeFormatOptions>> = {
  dayMonth: date({ day: "numeric", month: "long" }),
  longDate: date({ day: "numeric", month: "long", year: "numeric" }),
  shortDate: date({ dateStyle: "short" }),
  weekday: date({ weekday: "long", day: "numeric", month: "long" }),
  monthYear: date({ month: "long", year: "numeric" }),
  year: date({ year: "numeric" }),
};

/**
 * A slot's words for a reader, made safe for where they stand. Words that run the other way than the message are set
 * apart (Unicode UAX 9, 2.7), so that what stands around them keeps its order.
 */
export function slotText(slot: Slot, reader: Reader): string {
  const { field, sink, origin } = slot;
  const text = tagValue(slot, reader) ?? collapse(slot.fallback);
  if (sink !== "html" && sink !== "attribute" && sink !== "text" && sink !== "header")
    return written(text, sink, origin);
  const own = field.startsWith("system.") ? null : directionOfWords(text);
  const around = slot.language === undefined ? reader.direction : directionOf(slot.language);
  const apart = own !== null && own !== around;
  if (!apart) return written(text, sink);
  return sink === "html" ? `<bdi>${written(text, sink)}</bdi>` : `\u2068${written(text, sink)}\u2069`;
}

/** Whether there is anything to write for a slot; an address that leads nowhere is nothing. */
export function hasText(slot: Slot, reader: Reader): boolean {
  // What is named instead of written is there, whatever its name.
  const text = slot.given ?? slotText(slot, reader);
  return text !== "" && text !== "#";
}
