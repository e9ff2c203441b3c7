import { type Contact, fieldValue, type Rule } from "../audience";
import type { Code, Slot } from "../program";
import { type Bound, partsOf } from "./bind";
import { batchOf, isCode, type Reader, readerValue } from "./value";

/** One of the distinct emails that a campaign turns into across its audience. */
export interface Edition {
  /** Equal for equal editions of the same program. */
  key: string;
  /** How many readers get it. */
  count: number;
  /** The first reader who gets it. */
  sample: Contact;
  /** Fields for which these readers get the fallback. */
  fallbacks: string[];
  /** By the place of each rule, whether these readers meet it: `2` yes, `1` no, `0` not asked. */
  met: string;
  /** The batches of which these readers are shown a code. */
  codes: string[];
  /** Set when the email says things differently by language. */
  language: string | null;
  /** The keys of readers who answer otherwise and get the same. */
  also: string[];
}

/** What an edition's readers have in common, before anybody is looked up: the first of them by number. */
export type EditionCount = Omit<Edition, "sample" | "also"> & { first: number };

/** What is asked about readers to find the editions of an email. */
export interface EditionQuestions {
  rules: readonly Rule[];
  /** Fields that may have nothing to write, each with those that are written in its place. */
  fields: readonly (readonly string[])[];
  /** Whether the reader's own language matters. */
  local: boolean;
}

/** The answers about readers, who have numbers. Rules and fields are counted as in `EditionQuestions`. */
export interface EditionAnswers {
  meets(rule: number, reader: number): boolean;
  /** Whether one of the fields at a place in `EditionQuestions` has something to write. */
  writes(fields: number, reader: number): boolean;
  /** The reader's own language; null for the email's. */
  language(reader: number): string | null;
}

/**
 * A rule or, after all rules, a field; and where it goes on when the answer of a rule is no. A jump asks nothing, nor
 * does a code.
 */
interface Asked {
  asked: number | null;
  to: number | null;
  code?: string;
}

const LOCAL_FORMATS = new Set([
  "dayMonth",
  "longDate",
  "shortDate",
  "weekday",
  "monthYear",
  "number",
  "money",
  "list",
]);

/** What is asked about readers to find the editions of an email. */
export function editionQuestions(bound: Bound): EditionQuestions {
  return {
    rules: bound.asked,
    fields: fieldsOf(bound),
    local: bound.slots.some((slot) => LOCAL_FORMATS.has(slot.format)),
  };
}

/** Whether every reader has it: addresses of their own, codes, and what is the same for all. */
export const isAlwaysThere = (field: string) =>
  field.startsWith("system.") || field.startsWith("date.") || isCode(field);
/** The fields that a slot looks at, in order. */
const fieldsOfSlot = ({ field, or }: Slot) => (or === undefined ? [field] : [field, or]);
const keyOf = (fields: readonly string[]) => fields.join("\n");
const fieldsOf = ({ slots }: Bound) => {
  const own = slots.filter(({ field }) => !isAlwaysThere(field)).map(fieldsOfSlot);
  return [...new Map(own.map((fields) => [keyOf(fields), fields])).values()];
};

/** Counts editions reader by reader, so that others can have their turn between two stretches of a large audience. */
export interface EditionCounter {
  /** @param got is told of each reader which edition they get */
  take(readers: Iterable<number>, got?: (reader: number, edition: EditionCount) => void): void;
  /** What was found, ordered by count, largest first. */
  found(): EditionCount[];
}

/**
 * Finds the editions across an audience, exactly: each rule counts only where its outcome matters, missing values count
 * where they show, and readers with the same answers get the same edition. Takes time in proportion to readers × what is asked
 * of each.
 */
export function editionCounter(bound: Bound, answers: EditionAnswers): EditionCounter {
  const { fields, local } = editionQuestions(bound);
  const keys = fields.map(keyOf);
  const fieldOfSlot = bound.slots.map((slot) => keys.indexOf(keyOf(fieldsOfSlot(slot))));
  const ruleCount = bound.rules.length;
  const steps = partsOf(bound).map((code) => skeleton(code, bound.slots, fieldOfSlot, ruleCount));
  const yes = (asked: number, reader: number) =>
    asked < ruleCount ? answers.meets(asked, reader) : answers.writes(asked - ruleCount, reader);
  // What is asked next depends only on the answers before: what was found out of one reader holds for all who answer
  // alike, and most walk a way that is there.
  const begun = turnAt(steps, new Uint8Array(ruleCount + fields.length));
  const all: EditionCount[] = [];
  const reached = ({ digits, codes, editions: here }: Turn, reader: number): EditionCount => {
    const language = local ? (answers.language(reader) ?? bound.language) : null;
    let edition = here.get(language);
    if (!edition) {
      const key = language === null ? packed(digits) : `${packed(digits)} ${language}`;
      const lacking = fields.filter((_, index) => digits[ruleCount + index] === 1).map(([first]) => first);
      const fallbacks = [...new Set(lacking)];
      const met = digits.subarray(0, ruleCount).join("");
      edition = { key, count: 0, first: reader, met, fallbacks, codes, language };
      here.set(language, edition);
      all.push(edition);
    }
    return edition;
  };
  const after = (turn: Turn, answer: 1 | 2): Turn => {
    const digits = turn.digits.slice();
    digits[turn.asked] = answer;
    return turnAt(steps, digits);
  };
  return {
    take(readers, got) {
      for (const reader of readers) {
        let turn = begun;
        while (turn.asked >= 0)
          if (yes(turn.asked, reader)) turn = turn.yes ??= after(turn, 2);
          else turn = turn.no ??= after(turn, 1);
        const edition = reached(turn, reader);
        edition.count++;
        got?.(reader, edition);
      }
    },
    found: () => all.sort((a, b) => b.count - a.count || (a.key < b.key ? -1 : 1)),
  };
}

/** The answers in few characters: as numbers in base 3, twenty digits each, which a double holds exactly. */
function packed(answers: Uint8Array): string {
  let key = "";
  for (let from = 0; from < answers.length; from += 20) {
    let number = 0;
    const to = Math.min(from + 20, answers.length);
    for (let at = from; at < to; at++) number = number * 3 + answers[at];
    key += from === 0 ? number : `.${number}`;
  }
  return key;
}

/** What is known of a reader so far, and what is asked of them next. */
interface Turn {
  /** A rule or, after all rules, a field; -1 when nothing more is asked. */
  asked: number;
  no: Turn | null;
  yes: Turn | null;
  /** One digit for each rule and field: 0 not asked, 1 no or missing, 2 yes or present. */
  digits: Uint8Array;
  /** At the end: the codes that are shown, and the editions here, by language. */
  codes: string[];
  editions: Map<string | null, EditionCount>;
}

/** The code without its static text and without values that every reader has but codes, which are counted. */
function skeleton(
  code: Code,
  slots: readonly Slot[],
  fieldOfSlot: readonly number[],
  ruleCount: number,
): Asked[] {
  const steps: Asked[] = [];
  const position: number[] = [];
  for (const op of code) {
    position.push(steps.length);
    if (op.op === "unless") steps.push({ asked: op.rule, to: op.to });
    else if (op.op === "without" && fieldOfSlot[op.slot] >= 0)
      steps.push({ asked: ruleCount + fieldOfSlot[op.slot], to: op.to });
    else if (op.op === "jump") steps.push({ asked: null, to: op.to });
    else if (op.op === "value" && fieldOfSlot[op.slot] >= 0)
      steps.push({ asked: ruleCount + fieldOfSlot[op.slot], to: null });
    else if (op.op === "value" && isCode(slots[op.slot].field))
      steps.push({ asked: null, to: null, code: batchOf(slots[op.slot].field) });
  }
  position.push(steps.length);
  for (const step of steps) if (step.to !== null) step.to = position[step.to];
  return steps;
}

/** What is to be asked of a reader of whom so much is known. */
function turnAt(parts: readonly (readonly Asked[])[], digits: Uint8Array): Turn {
  const codes = new Set<string>();
  const turn = { no: null, yes: null, digits, editions: new Map() };
  for (const steps of parts) {
    for (let at = 0; at < steps.length; at++) {
      const { asked, to, code } = steps[at];
      if (code !== undefined) codes.add(code);
      if (asked !== null && digits[asked] === 0) return { asked, ...turn, codes: [] };
      if (to !== null && (asked === null || digits[asked] === 1)) at = to - 1;
    }
  }
  return { asked: -1, ...turn, codes: [...codes] };
}

const ANYBODY: Omit<Reader, "contact"> = {
  language: "en",
  direction: "ltr",
  system: { unsubscribe: "", answer: "", referral: "", letter: "" },
};

/** Whether a tag of a field has something to write for a contact: `readerValue` gives words. */
export function hasWords(field: string, contact: Contact): boolean {
  const raw = fieldValue(contact, field);
  if (raw === undefined || raw === null || raw === "") return false;
  // Nearly every value starts with a visible sign; only the odd ones need the whole treatment.
  if (typeof raw === "string" && raw.charCodeAt(0) > 32 && raw.charCodeAt(0) < 127) return true;
  return readerValue(field, { format: "asIs" }, { ...ANYBODY, contact }) !== null;
}
