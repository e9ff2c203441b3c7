import { type Contact, fieldValue } from "./contact";
import { addDays, anniversaryDays, DATE_SHAPE } from "./dates";
import { fold } from "./fold";
import type { FieldRule, Rule } from "./rule";

/** What a rule needs to know besides the contact. */
export interface AudienceContext {
  /** The day relative dates are counted from, `YYYY-MM-DD`. */
  today: string;
  /** The rules of all segments by id. */
  segments: ReadonlyMap<string, Rule>;
}

/** A rule that cannot be answered: it names a segment that is gone, or goes round in a circle. */
export class RuleError extends Error {
  constructor(
    readonly reason: "cycle" | "missing segment",
    readonly segment: string,
  ) {
    super(
      reason === "cycle"
        ? `The segment “${segment}” refers to itself, directly or through other segments.`
        : `The segment “${segment}” no longer exists.`,
    );
    this.name = "RuleError";
  }
}

/** Looks up a segment's rule, refusing circles and gaps. `path` holds the segments being worked out. */
export function segmentRule(id: string, context: AudienceContext, path: readonly string[]): Rule {
  if (path.includes(id)) throw new RuleError("cycle", id);
  const rule = context.segments.get(id);
  if (!rule) throw new RuleError("missing segment", id);
  return rule;
}

/**
 * A function that says whether a contact meets the rule. Agrees with `toSql` on every contact.
 * @throws RuleError when a segment is missing or refers to itself
 */
export function predicate(
  rule: Rule,
  context: AudienceContext,
  path: readonly string[] = [],
): (contact: Contact) => boolean {
  switch (rule.kind) {
    case "all": {
      const tests = rule.of.map((part) => predicate(part, context, path));
      return (contact) => tests.every((test) => test(contact));
    }
    case "any": {
      const tests = rule.of.map((part) => predicate(part, context, path));
      return (contact) => tests.some((test) => test(contact));
    }
    case "none": {
      const tests = rule.of.map((part) => predicate(part, context, path));
      return (contact) => !tests.some((test) => test(contact));
    }
    case "list":
      return (contact) => contact.lists.includes(rule.list) === rule.in;
    case "segment": {
      const inner = predicate(segmentRule(rule.segment, context, path), context, [...path, rule.segment]);
      return rule.in ? inner : (contact) => !inner(contact);
    }
    case "field":
      return fieldPredicate(rule, context);
  }
}

function fieldPredicate(rule: FieldRule, context: AudienceContext): (contact: Contact) => boolean {
  const value = (contact: Contact) => fieldValue(contact, rule.field);
  const onText = (test: (text: string) => boolean) => (contact: Contact) => {
    const text = value(contact);
    return typeof text === "string" && test(fold(text));
  };
  const onNumber = (test: (number: number) => boolean) => (contact: Contact) => {
    const number = value(contact);
    return typeof number === "number" && test(number);
  };
  const onDate = (test: (date: string) => boolean) => (contact: Contact) => {
    const date = value(contact);
    return typeof date === "string" && DATE_SHAPE.test(date) && test(date);
  };
  const not = (test: (contact: Contact) => boolean) => (contact: Contact) => !test(contact);
  const known = (contact: Contact) => {
    const it = value(contact);
    return it !== undefined && it !== null && it !== "" && !(Array.isArray(it) && it.length === 0);
  };

  switch (rule.op) {
    case "is":
    case "isNot": {
      const wanted = fold(rule.value);
      const test = onText((text) => text === wanted);
      return rule.op === "is" ? test : not(test);
    }
    case "anyOf": {
      const wanted = new Set(rule.value.map(fold));
      return onText((text) => wanted.has(text));
    }
    case "contains": {
      const wanted = fold(rule.value);
      return onText((text) => text.includes(wanted));
    }
    case "startsWith": {
      const wanted = fold(rule.value);
      return onText((text) => text.startsWith(wanted));
    }
    case "equals":
      return onNumber((number) => number === rule.value);
    case "atLeast":
      return onNumber((number) => number >= rule.value);
    case "atMost":
      return onNumber((number) => number <= rule.value);
    case "onOrAfter":
      return onDate((date) => date >= rule.value);
    case "onOrBefore":
      return onDate((date) => date <= rule.value);
    case "withinLast": {
      const from = addDays(context.today, -rule.value);
      return onDate((date) => date >= from && date <= context.today);
    }
    case "withinNext": {
      const to = addDays(context.today, rule.value);
      return onDate((date) => date >= context.today && date <= to);
    }
    case "anniversaryWithin": {
      const days = anniversaryDays(context.today, rule.value);
      return onDate((date) => days.has(date.slice(5)));
    }
    case "yes":
      return (contact) => value(contact) === true;
    case "no":
      return (contact) => value(contact) !== true;
    case "includes":
    case "includesNot": {
      const test = (contact: Contact) => {
        const set = value(contact);
        return Array.isArray(set) && set.includes(rule.value);
      };
      return rule.op === "includes" ? test : not(test);
    }
    case "known":
      return known;
    case "unknown":
      return not(known);
  }
}
