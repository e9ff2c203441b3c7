import type { FieldDef, FieldValue } from "./contact";
import { DATE_SHAPE } from "./dates";

/** What a field can be given: the value as it is stored, null for nothing; or why not, as the end of a sentence. */
export type Given = { value: FieldValue } | { problem: string };

const LONGEST = 2000;

/** Whether a date is one: the 30th of February has the shape of a day and is none. */
export function isDay(text: string): boolean {
  if (!DATE_SHAPE.test(text)) return false;
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === text;
}

/**
 * Reads what is to be stored in a field by the field's kind. Nothing (null, empty words, an empty set) is always fine.
 * @param raw words, a number, yes or no, a day as `YYYY-MM-DD`, or an array of words
 */
export function givenValue(field: FieldDef, raw: unknown): Given {
  const nothing = raw === null || raw === undefined || raw === "" || (Array.isArray(raw) && raw.length === 0);
  if (nothing) return { value: null };
  const among = (value: string) => !field.options || field.options.some((option) => option.value === value);
  switch (field.kind) {
    case "number":
    case "money":
      if (typeof raw !== "number" || !Number.isFinite(raw)) return { problem: "should be a number" };
      return { value: raw };
    case "date":
      if (typeof raw !== "string" || !isDay(raw)) return { problem: "should be a day, such as 2026-12-03" };
      return { value: raw };
    case "boolean":
      return typeof raw === "boolean" ? { value: raw } : { problem: "should be yes or no" };
    case "set": {
      if (!Array.isArray(raw) || raw.some((one) => typeof one !== "string"))
        return { problem: "should be a list of words" };
      const strange = raw.find((one) => !among(one));
      if (strange !== undefined) return { problem: `cannot be “${strange}”` };
      return { value: [...new Set(raw as string[])] };
    }
    default:
      if (typeof raw !== "string") return { problem: "should be words" };
      if (raw.length > LONGEST) return { problem: `has more than ${LONGEST} characters` };
      if (/\u0000/.test(raw) || !raw.isWellFormed()) return { problem: "holds characters that are none" };
      if (raw.trim() === "") return { value: null };
      if ((field.kind === "choice" || field.kind === "record") && !among(raw))
        return { problem: `cannot be “${raw}”` };
      return { value: raw.trim() };
  }
}
