import { type Contact, fieldValue } from "../audience";
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

type Asked = { jump: true; rule: number; to: number } | { jump: false; field: number };

const LOCAL_FORMATS = new Set(["dayMonth", "longDate", "number"]);

/**
 * Finds the editions across an audience, exactly: each rule is asked once per reader and only where its outcome
 * matters, missing values count where they show, and readers with the same answers get the same edition. Takes
 * time in proportion to readers × rules. Ordered by count, largest first.
 */
export function editions(bound: Bound, readers: Iterable<Contact>): Edition[] {
  const fields: string[] = [];
  const fieldOfSlot = bound.slots.map(({ field }) => {
    if (field.startsWith("system.")) return -1;
    const index = fields.indexOf(field);
    return index >= 0 ? index : fields.push(field) - 1;
  });
  const steps = [bound.subject, bound.preheader, bound.senderName, bound.html, bound.text].map((code) =>
    skeleton(code, fieldOfSlot),
  );
  const local = bound.slots.some((slot) => LOCAL_FORMATS.has(slot.format));

  // One digit per rule and per field: 0 never asked, 1 no or missing, 2 yes or present.
  const ruleCount = bound.rules.length;
  const answers = new Uint8Array(ruleCount + fields.length);
  const found = new Map<string, Edition>();
  for (const contact of readers) {
    answers.fill(0);
    for (const part of steps) ask(part, contact, bound, fields, answers);
    const own = contact.fields.language;
    const language = local ? (typeof own === "string" && own !== "" ? own : bound.language) : null;
    const key = language === null ? packed(answers) : `${packed(answers)} ${language}`;
    const known = found.get(key);
    if (known) known.count++;
    else {
      found.set(key, {
        key,
        count: 1,
        sample: contact,
        fallbacks: fields.filter((_, index) => answers[ruleCount + index] === 1),
        language,
      });
    }
  }
  return [...found.values()].sort((a, b) => b.count - a.count || (a.key < b.key ? -1 : 1));
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
  contact: Contact,
  bound: Bound,
  fields: readonly string[],
  answers: Uint8Array,
): void {
  const ruleCount = bound.rules.length;
  for (let at = 0; at < steps.length; at++) {
    const step = steps[at];
    if (step.jump) {
      if (answers[step.rule] === 0) answers[step.rule] = bound.rules[step.rule](contact) ? 2 : 1;
      if (answers[step.rule] === 1) at = step.to - 1;
    } else {
      const slot = ruleCount + step.field;
      if (answers[slot] === 0) answers[slot] = isPresent(fields[step.field], contact) ? 2 : 1;
    }
  }
}

const ANYBODY: Omit<Reader, "contact"> = {
  language: "en",
  direction: "ltr",
  system: { unsubscribe: "", answer: "" },
};

function isPresent(field: string, contact: Contact): boolean {
  const raw = fieldValue(contact, field);
  if (raw === undefined || raw === null) return false;
  // Nearly every value starts with a visible sign; only the odd ones need the whole treatment.
  if (typeof raw === "string" && raw.charCodeAt(0) > 32 && raw.charCodeAt(0) < 127) return true;
  return readerValue(field, "asIs", { ...ANYBODY, contact }) !== null;
}
