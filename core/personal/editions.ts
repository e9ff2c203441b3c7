import { type Contact, fieldValue, type Rule } from "../audience";
import type { Code } from "../program";
import type { Bound } from "./bind";
import { type Reader, readerValue } from "./value";

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
  /** Set when the email says things differently by language. */
  language: string | null;
}

/** What an edition's readers have in common, before anybody is looked up: the first of them by number. */
export type EditionCount = Omit<Edition, "sample"> & { first: number };

/** What is asked about readers to find the editions of an email. */
export interface EditionQuestions {
  rules: readonly Rule[];
  /** Fields that may have nothing to write. */
  fields: readonly string[];
  /** Whether the reader's own language matters. */
  local: boolean;
}

/** The answers about readers, who have numbers. Rules are counted as in `EditionQuestions`. */
export interface EditionAnswers {
  meets(rule: number, reader: number): boolean;
  writes(field: string, reader: number): boolean;
  /** The reader's own language; null for the email's. */
  language(reader: number): string | null;
}

type Asked = { jump: true; rule: number; to: number } | { jump: false; field: number };

const LOCAL_FORMATS = new Set(["dayMonth", "longDate", "number"]);

/** What is asked about readers to find the editions of an email. */
export function editionQuestions(bound: Bound): EditionQuestions {
  return {
    rules: bound.asked,
    fields: fieldsOf(bound),
    local: bound.slots.some((slot) => LOCAL_FORMATS.has(slot.format)),
  };
}

const isSystem = (field: string) => field.startsWith("system.");
const fieldsOf = ({ slots }: Bound) => [
  ...new Set(slots.map(({ field }) => field).filter((field) => !isSystem(field))),
];

/** Counts editions reader by reader, so that others can have their turn between two stretches of a large audience. */
export interface EditionCounter {
  take(readers: Iterable<number>): void;
  /** What was found, ordered by count, largest first. */
  found(): EditionCount[];
}

/**
 * Finds the editions across an audience, exactly: each rule counts only where its outcome matters, missing values count
 * where they show, and readers with the same answers get the same edition. Takes time in proportion to readers × rules.
 */
export function editionCounter(bound: Bound, answers: EditionAnswers): EditionCounter {
  const { fields, local } = editionQuestions(bound);
  const fieldOfSlot = bound.slots.map(({ field }) => (isSystem(field) ? -1 : fields.indexOf(field)));
  const steps = [bound.subject, bound.preheader, bound.senderName, bound.html, bound.text].map((code) =>
    skeleton(code, fieldOfSlot),
  );
  // One digit per rule and per field: 0 never asked, 1 no or missing, 2 yes or present.
  const ruleCount = bound.rules.length;
  const digits = new Uint8Array(ruleCount + fields.length);
  const found = new Map<string, EditionCount>();
  return {
    take(readers) {
      for (const reader of readers) {
        digits.fill(0);
        for (const part of steps) ask(part, reader, answers, fields, ruleCount, digits);
        const language = local ? (answers.language(reader) ?? bound.language) : null;
        const key = language === null ? packed(digits) : `${packed(digits)} ${language}`;
        const known = found.get(key);
        if (known) known.count++;
        else {
          found.set(key, {
            key,
            count: 1,
            first: reader,
            fallbacks: fields.filter((_, index) => digits[ruleCount + index] === 1),
            language,
          });
        }
      }
    },
    found: () => [...found.values()].sort((a, b) => b.count - a.count || (a.key < b.key ? -1 : 1)),
  };
}

/** The editions across contacts that are at hand; see `editionCounter`. */
export function editions(bound: Bound, contacts: readonly Contact[]): Edition[] {
  const counter = editionCounter(bound, {
    meets: (rule, at) => bound.rules[rule](contacts[at]),
    writes: (field, at) => hasWords(field, contacts[at]),
    language(at) {
      const own = contacts[at].fields.language;
      return typeof own === "string" && own !== "" ? own : null;
    },
  });
  counter.take(contacts.keys());
  return counter.found().map(({ first, ...edition }) => ({ ...edition, sample: contacts[first] }));
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

/** The code without its static text and without values that every reader has. */
function skeleton(code: Code, fieldOfSlot: readonly number[]): Asked[] {
  const steps: Asked[] = [];
  const position: number[] = [];
  for (const op of code) {
    position.push(steps.length);
    if (op.op === "unless") steps.push({ jump: true, rule: op.rule, to: op.to });
    else if (op.op === "value" && fieldOfSlot[op.slot] >= 0)
      steps.push({ jump: false, field: fieldOfSlot[op.slot] });
  }
  position.push(steps.length);
  for (const step of steps) if (step.jump) step.to = position[step.to];
  return steps;
}

function ask(
  steps: readonly Asked[],
  reader: number,
  answers: EditionAnswers,
  fields: readonly string[],
  ruleCount: number,
  digits: Uint8Array,
): void {
  for (let at = 0; at < steps.length; at++) {
    const step = steps[at];
    if (step.jump) {
      if (digits[step.rule] === 0) digits[step.rule] = answers.meets(step.rule, reader) ? 2 : 1;
      if (digits[step.rule] === 1) at = step.to - 1;
    } else {
      const slot = ruleCount + step.field;
      if (digits[slot] === 0) digits[slot] = answers.writes(fields[step.field], reader) ? 2 : 1;
    }
  }
}

const ANYBODY: Omit<Reader, "contact"> = {
  language: "en",
  direction: "ltr",
  system: { unsubscribe: "", answer: "" },
};

/** Whether a tag of a field has something to write for a contact: `readerValue` gives words. */
export function hasWords(field: string, contact: Contact): boolean {
  const raw = fieldValue(contact, field);
  if (raw === undefined || raw === null) return false;
  // Nearly every value starts with a visible sign; only the odd ones need the whole treatment.
  if (typeof raw === "string" && raw.charCodeAt(0) > 32 && raw.charCodeAt(0) < 127) return true;
  return readerValue(field, "asIs", { ...ANYBODY, contact }) !== null;
}
