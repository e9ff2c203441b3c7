import { type Contact, fieldValue } from "../audience";
import {
  collapse,
  type Direction,
  dateFormat,
  directionOf,
  directionOfWords,
  escapeHtml,
  listFormat,
  localeOf,
  numberFormat,
  type Slot,
  safeHref,
} from "../program";

/** A contact looked at as the recipient of one message. */
export interface Reader {
  contact: Contact;
  language: string;
  /** Which way the message runs around a value. */
  direction: Direction;
  /** Addresses made for this message. */
  system: SystemAddresses;
}

/** Addresses made for one reader of one message. */
export interface SystemAddresses {
  unsubscribe: string;
  /** Where answers of a survey go; the block and the answer are added to it. */
  answer: string;
}

/** Addresses for looks and proofs: pages that say so and change nothing. */
export function previewAddresses(origin: string): SystemAddresses {
  return { unsubscribe: `${origin}/unsubscribe/preview`, answer: `${origin}/answer/preview` };
}

/** A contact as a reader, in their own language or that of the email. */
export function readerOf(contact: Contact, language: string, system: SystemAddresses): Reader {
  const own = contact.fields.language;
  return {
    contact,
    language: typeof own === "string" && own !== "" ? own : language,
    direction: directionOf(language),
    system,
  };
}

/** A reader's value in words, or null when it is missing, empty or of no use. */
export function readerValue(field: string, format: string, reader: Reader): string | null {
  if (field === "system.unsubscribe") return reader.system.unsubscribe;
  if (field === "system.answer") return reader.system.answer;
  const raw = fieldValue(reader.contact, field);
  const text = formatValue(raw, format, reader.language);
  return text === "" ? null : text;
}

/** The words of a tag without its fallback: of its field or, for who lacks it, of the other; null without both. */
export function tagValue(
  { field, or, format }: Pick<Slot, "field" | "or" | "format">,
  reader: Reader,
): string | null {
  return readerValue(field, format, reader) ?? (or ? readerValue(or, format, reader) : null);
}

const isLeap = (year: number) => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

function formatValue(raw: unknown, format: string, language: string): string {
  if (typeof raw === "boolean") return raw ? "yes" : "no";
  if (typeof raw === "number") {
    return format === "number" ? numberFormat(localeOf(language)).format(raw) : String(raw);
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
    case "dayMonth":
      return formatDate(text, language, false);
    case "longDate":
      return formatDate(text, language, true);
    default:
      return text;
  }
}

/** A stored date in words; what is no date of the calendar stays as it is. */
function formatDate(text: string, language: string, withYear: boolean): string {
  const match = /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/.exec(text);
  if (!match) return text;
  const [year, month, day] = match.slice(1).map(Number);
  const lengths = [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  if (month < 1 || month > 12 || day < 1 || day > lengths[month - 1]) return text;
  return dateFormat(localeOf(language), {
    day: "numeric",
    month: "long",
    year: withYear ? "numeric" : undefined,
    timeZone: "UTC",
  }).format(new Date(`${text}T00:00:00Z`));
}

/**
 * A slot's words for a reader, made safe for where they stand. Words that run the other way than the message are set
 * apart (Unicode UAX 9, 2.7), so that what stands around them keeps its order.
 */
export function slotText(slot: Slot, reader: Reader): string {
  const text = tagValue(slot, reader) ?? collapse(slot.fallback);
  if (slot.sink === "href") return escapeHtml(safeHref(text));
  const own = slot.field.startsWith("system.") ? null : directionOfWords(text);
  const apart = own !== null && own !== reader.direction;
  if (slot.sink === "html") return apart ? `<bdi>${escapeHtml(text)}</bdi>` : escapeHtml(text);
  return apart ? `\u2068${text}\u2069` : text;
}
