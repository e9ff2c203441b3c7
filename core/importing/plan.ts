/** What becomes of the columns of a file, and of each of its lines. */
import { z } from "zod";
import { type FieldDef, FieldDefSchema, type FieldValue, givenValue, isAddress } from "../audience";
import { readBoolean, readDate, readNumber } from "../tables";
import { foldStatus, type Meaning, MeaningSchema, readStatus } from "./status";

/** What a column becomes: a field, a new field, the lists somebody is on, whether they may be written to, or nothing. */
const TargetSchema = z.discriminatedUnion("to", [
  z.object({ to: z.literal("field"), field: z.string() }),
  z.object({ to: z.literal("new"), field: FieldDefSchema }),
  z.object({ to: z.literal("lists") }),
  z.object({
    to: z.literal("status"),
    /** Whether yes means that they must not be written to. */
    turned: z.boolean(),
    /** What words mean that are not known, or mean something else here; by `foldStatus`. */
    means: z.record(z.string().max(60), MeaningSchema),
  }),
  z.object({ to: z.literal("nothing") }),
]);
export type Target = z.infer<typeof TargetSchema>;

export const PlanSchema = z.object({
  columns: z
    .array(z.object({ target: TargetSchema, dates: z.enum(["dmy", "mdy"]), decimal: z.enum([".", ","]) }))
    .max(2000),
  /** Of whom the audience knows already: what the file says counts, only gaps are filled, or they stay as they are. */
  known: z.enum(["update", "fill", "keep"]),
  /** Lists that everybody in the file is put on, by their ids. */
  lists: z.array(z.string()).max(100),
  /** The name of a new list for them; none when empty. */
  newList: z.string().max(200),
  /** How they agreed to get letters, and when. */
  consent: z.object({ source: z.string().max(500), date: z.string().max(10) }),
  /** Whether a line with a value that does not fit is taken without it. */
  lenient: z.boolean(),
});
export type Plan = z.infer<typeof PlanSchema>;

/** What a line gives a contact. */
export interface Given {
  email: string;
  fields: Record<string, FieldValue>;
  /** Names of lists. */
  lists: string[];
  status: "unsubscribed" | "bounced" | "complained" | null;
}

/** A word that says whether somebody may be written to, and what it means; null where nobody knows. */
export interface StatusWord {
  /** By `foldStatus`. */
  word: string;
  /** As it stands there. */
  said: string;
  meaning: Meaning | null;
}

export type LineRead = (
  | /** `left` says what of it does not fit and was left out. */
  { given: Given; left: string[] }
  | { reason: string }
) & { status?: StatusWord };

/** The fields that a plan makes. Two columns may become the same one. */
export function newFieldsOf(plan: Plan): FieldDef[] {
  const made = new Map<string, FieldDef>();
  for (const { target } of plan.columns)
    if (target.to === "new" && !made.has(target.field.key)) made.set(target.field.key, target.field);
  return [...made.values()];
}

/**
 * A function that reads the cells of a line.
 * @param names the names of the columns: a line that has just these is the header once more
 * @param fields all fields there are, those that the plan makes among them
 */
export function lineReader(
  plan: Plan,
  names: readonly string[],
  fields: readonly FieldDef[],
  thisYear: number,
): (cells: readonly string[]) => LineRead {
  const defs = new Map(fields.map((field) => [field.key, field]));
  const columns = plan.columns.flatMap(({ target, dates, decimal }, at) => {
    if (target.to === "nothing") return [];
    const key = target.to === "field" ? target.field : target.to === "new" ? target.field.key : null;
    const def = key === null ? undefined : defs.get(key);
    if (key !== null && !def) return [];
    return [
      { at, target, def, read: def ? valueReader(def, dates, decimal, thisYear, target.to === "new") : null },
    ];
  });
  const statusColumn = columns.flatMap(({ at, target }) =>
    target.to === "status" ? [{ at, target }] : [],
  )[0];
  const isHeader = (cells: readonly string[]) =>
    names.length > 1 && cells.length >= names.length && names.every((name, at) => cells[at]?.trim() === name);
  return (cells) => {
    const more = cells.slice(names.length).filter((cell) => cell.trim() !== "").length;
    if (more > 0) return { reason: `has ${cells.length} cells, the first line ${names.length}` };
    if (isHeader(cells)) return { reason: "is the header once more" };
    const given: Given = { email: "", fields: {}, lists: [], status: null };
    const left: string[] = [];
    const status = statusColumn ? statusIn(cells[statusColumn.at] ?? "", statusColumn.target) : undefined;
    if (status?.meaning && status.meaning !== "subscribed" && status.meaning !== "out")
      given.status = status.meaning;
    for (const { at, target, def, read } of columns) {
      const text = (cells[at] ?? "").trim();
      if (text === "") continue;
      if (target.to === "lists") given.lists.push(...partsOf(text));
      else if (def?.key === "email") given.email = text.replace(/^mailto:/i, "");
      else if (def && read) {
        const value = read(text);
        if ("problem" in value) {
          const words = `“${def.label}” ${value.problem}`;
          if (!plan.lenient) return { reason: words, status };
          left.push(words);
        } else if (value.value !== null) given.fields[def.key] = value.value;
      }
    }
    const named = /<([^<>]+)>\s*$/.exec(given.email);
    if (named) given.email = named[1].trim();
    if (given.email === "") return { reason: "has no address", status };
    if (!isAddress(given.email)) return { reason: `“${shortened(given.email)}” is no address`, status };
    const because = status && whyNot(status, names[statusColumn!.at]);
    if (because) return { reason: because, status };
    return { given, left, status };
  };
}

type StatusTarget = Extract<Target, { to: "status" }>;

const statusIn = (cell: string, { turned, means }: StatusTarget): StatusWord => ({
  word: foldStatus(cell),
  said: cell.trim().slice(0, 60),
  meaning: readStatus(cell, turned, means),
});

/** Why a line with such a word is not taken; null where it is. */
function whyNot({ word, said, meaning }: StatusWord, column: string): string | null {
  if (meaning === null)
    return word === ""
      ? `has nothing in “${column}”: whether they may be written to is not known`
      : `“${said}” in “${column}” is not known: say what it means`;
  return meaning === "out" ? `is left out because of “${said}” in “${column}”` : null;
}

const shortened = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text);
const partsOf = (text: string) =>
  text
    .split(/[;,|]/)
    .map((part) => part.trim())
    .filter((part) => part !== "");

type Value = { value: FieldValue } | { problem: string };

/** Reads the cells of a column as its field's kind takes them. What a new choice may be, the file says. */
function valueReader(
  field: FieldDef,
  dates: "dmy" | "mdy",
  decimal: "." | ",",
  thisYear: number,
  isNew: boolean,
): (text: string) => Value {
  const open: FieldDef = isNew ? { ...field, options: undefined } : field;
  const byName = new Map(
    (field.options ?? []).flatMap(({ value, label }) => [
      [value.toLowerCase(), value],
      [label.toLowerCase(), value],
    ]),
  );
  const meant = (text: string) => (isNew ? text : (byName.get(text.toLowerCase()) ?? text));
  return (text) => {
    switch (field.kind) {
      case "date": {
        const day = readDate(text, dates, thisYear);
        return day ? { value: day } : { problem: `should be a day, not “${shortened(text)}”` };
      }
      case "number":
      case "money": {
        const number = readNumber(text, decimal);
        return number === null
          ? { problem: `should be a number, not “${shortened(text)}”` }
          : { value: number };
      }
      case "boolean": {
        const answer = readBoolean(text);
        return answer === null
          ? { problem: `should be yes or no, not “${shortened(text)}”` }
          : { value: answer };
      }
      case "set":
        return givenValue(open, partsOf(text).map(meant));
      case "choice":
      case "record":
        return givenValue(open, meant(text));
      default:
        // A cell over several lines is one line of words.
        return givenValue(open, text.replace(/[\r\n\t]+/g, " ").replace(/[\u0000-\u001f\u007f]/g, ""));
    }
  };
}
