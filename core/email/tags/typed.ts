/**
 * Tags as they are typed where words are plain: in addresses, alternative texts, HTML of one's own and the like. The
 * form is that of placeholders in Unicode MessageFormat 2 (UTS 35, part 9): `{$first_name :text else=|friend|}`.
 */
import { type MergeTag, MergeTagSchema, type TagFormat } from "./tag";

/** Words as they stand there, or a tag. */
export type TypedPiece = string | MergeTag;

/** What is wrong with something typed as a tag. */
export interface TypedMistake {
  /** Where it begins, in UTF-16 units. */
  at: number;
  /** How long it is. */
  length: number;
  /** As a sentence, with what to do. */
  text: string;
}

/** By function and its option: how the value is written. */
const FORMS: Readonly<Record<string, { option?: string; formats: Readonly<Record<string, TagFormat>> }>> = {
  text: { option: "case", formats: { "": "asIs", capital: "capital", upper: "upper", lower: "lower" } },
  date: {
    option: "style",
    formats: {
      "": "dayMonth",
      dayMonth: "dayMonth",
      long: "longDate",
      short: "shortDate",
      weekday: "weekday",
      monthYear: "monthYear",
      year: "year",
      iso: "asIs",
    },
  },
  number: { formats: { "": "number" } },
  currency: { formats: { "": "money" } },
  list: { formats: { "": "list" } },
};

const NAME = /^[a-z][a-z0-9_]*(\.[a-z][a-z0-9_]*)*$/;
/** `{$`, and what stands in it up to its end; bars keep what is between them together. */
const TAG = /(\\?)\{\$((?:\|(?:[^|\\]|\\[\s\S])*\||[^|{}])*)(\}?)/g;

/** Reads words with typed tags. What cannot be read stays as it stands, and is among the mistakes. */
export function readTyped(text: string): { pieces: TypedPiece[]; mistakes: TypedMistake[] } {
  const pieces: TypedPiece[] = [];
  const mistakes: TypedMistake[] = [];
  if (!text.includes("{$")) return { pieces: text === "" ? [] : [text], mistakes };
  let words = "";
  let done = 0;
  for (const found of text.matchAll(TAG)) {
    const [whole, escaped, inside, close] = found;
    words += text.slice(done, found.index);
    done = found.index + whole.length;
    if (escaped !== "") {
      words += whole.slice(1);
      continue;
    }
    const read = close === "" ? "The tag has no end: put a } behind it." : readTag(inside);
    if (typeof read === "string") {
      words += whole;
      mistakes.push({ at: found.index, length: whole.length, text: read });
      continue;
    }
    if (words !== "") pieces.push(words);
    words = "";
    pieces.push(read);
  }
  words += text.slice(done);
  if (words !== "") pieces.push(words);
  return { pieces, mistakes };
}

/** What comes behind a name: how it is written, or an option with its value. */
const PART = /\s+(?::([a-z]+)|([a-z]+)\s*=\s*(?:\|((?:[^|\\]|\\[\s\S])*)\||([^\s|{}=]+)))(?=\s|$)/y;

/** The tag that stands between `{$` and `}`, or what is wrong with it. */
function readTag(inside: string): MergeTag | string {
  const field = /^\S*/.exec(inside)?.[0] ?? "";
  if (field === "") return "The tag names nothing: write {$first_name}, for instance.";
  if (!NAME.test(field))
    return `“${field}” is no name of reader data: names are small letters, digits and _, parts with dots between.`;
  const wishes = new Map<string, string>();
  let kind: string | null = null;
  const all = inside.trimEnd();
  let at = field.length;
  while (at < all.length) {
    PART.lastIndex = at;
    const part = PART.exec(all);
    const [whole, called, option, barred, plain] = part ?? [];
    if (whole === undefined || (called !== undefined && kind !== null))
      return `“${all.slice(at).trim()}” cannot be read: behind the name come how it is written, such as :date, and options, such as else=|friend|.`;
    at += whole.length;
    if (called !== undefined) kind = called;
    else if (wishes.has(option)) return `“${option}” is said twice.`;
    else wishes.set(option, barred?.replace(/\\([\s\S])/g, "$1") ?? plain);
  }
  const form = FORMS[kind ?? "text"];
  if (!form)
    return `There is no way of writing called :${kind}. There are ${Object.keys(FORMS)
      .map((name) => `:${name}`)
      .join(", ")}.`;
  const known = new Set(["else", "or", ...(form.option ? [form.option] : [])]);
  const ofItem = field.startsWith("item.");
  if (ofItem) known.add("source").add("id");
  if (kind === "date") known.add("days");
  if (kind === "currency") known.add("currency");
  for (const name of wishes.keys())
    if (!known.has(name))
      return `:${kind ?? "text"} has no option “${name}”. It has ${[...known].join(", ")}.`;
  const wish = (form.option && wishes.get(form.option)) || "";
  const format = form.formats[wish];
  if (format === undefined)
    return `${form.option} can be ${Object.keys(form.formats).filter(Boolean).join(", ")}, not “${wish}”.`;
  const or = wishes.get("or");
  if (or !== undefined && !NAME.test(or)) return `“${or}” is no name of reader data.`;
  const days = wishes.get("days");
  if (days !== undefined && !/^[+-]?\d{1,4}$/.test(days)) return "days is a whole number, such as 14 or -7.";
  const currency = wishes.get("currency");
  if (currency !== undefined && !/^[A-Z]{3}$/.test(currency))
    return "currency is a code of three capitals, such as EUR (ISO 4217).";
  const [source, item] = [wishes.get("source") ?? "", wishes.get("id") ?? ""];
  if (ofItem && (source === "" || item === ""))
    return "It names no item: say which by source and id, or search for it where a link is asked for.";
  const otherwise = wishes.get("else") ?? "";
  if (otherwise.length > 200) return "What readers get who lack it is longer than 200 signs.";
  return MergeTagSchema.parse({
    field,
    format,
    fallback: otherwise,
    ...(or !== undefined && { or }),
    ...(days !== undefined && { days: Number(days) }),
    ...(currency !== undefined && { currency }),
    ...(ofItem && { of: { source, item } }),
  });
}

/** Whether a text holds typed tags, or something that was meant as one. */
export const hasTyped = (text: string): boolean => text.includes("{$");

const bars = (text: string) => `|${text.replace(/[\\|]/g, "\\$&")}|`;

/** A tag as it is typed. */
export function typedTag(tag: MergeTag): string {
  const { format, days = 0 } = tag;
  // What is moved by days is a date, also where it is written as it is stored.
  const kinds = Object.entries(FORMS).filter(([kind]) => kind === "date" || days === 0);
  const [kind, { option, formats }] =
    kinds.find(([, form]) => Object.values(form.formats).includes(format)) ?? kinds[0];
  const usual = kind !== "date" && formats[""] === format;
  const wish = Object.keys(formats).find((name) => name !== "" && formats[name] === format);
  const parts = [
    `$${tag.field}`,
    ...(kind === "text" && usual ? [] : [`:${kind}`]),
    ...(wish && !usual ? [`${option}=${wish}`] : []),
    ...(days !== 0 ? [`days=${days}`] : []),
    ...(tag.currency ? [`currency=${tag.currency}`] : []),
    ...(tag.or ? [`or=${tag.or}`] : []),
    ...(tag.of ? [`source=${bars(tag.of.source)}`, `id=${bars(tag.of.item)}`] : []),
    ...(tag.fallback !== "" ? [`else=${bars(tag.fallback)}`] : []),
  ];
  return `{${parts.join(" ")}}`;
}

/** Words as they are typed: what would be read as a tag is escaped. */
export const typedWords = (words: string): string => words.replaceAll("{$", "\\{$");

/** The tags in a text. */
export const tagsIn = (text: string): MergeTag[] =>
  readTyped(text).pieces.filter((piece): piece is MergeTag => typeof piece !== "string");

/** A tag as words of the interface show it: what is said without data, or what it asks for. */
export const tagWords = ({ field, fallback }: Pick<MergeTag, "field" | "fallback">): string =>
  fallback || `‹${field.replace(/^(lookup|code)\./, "").replaceAll(/[_.]/g, " ")}›`;

/** A text with typed tags as words of the interface show it. */
export const asRead = (text: string): string =>
  hasTyped(text)
    ? readTyped(text)
        .pieces.map((piece) => (typeof piece === "string" ? piece : tagWords(piece)))
        .join("")
    : text;
