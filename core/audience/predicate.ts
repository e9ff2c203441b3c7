import { didPredicate } from "./behaviour";
import { type Contact, fieldValue } from "./contact";
import type { AudienceContext } from "./context";
import { addSpan, anniversaryDays, DATE_SHAPE } from "./dates";
import { fold } from "./fold";
import type { FieldRule, NamedRule, Rule } from "./rule";
import { standingGroup } from "./standing";

/** A rule that cannot be answered: it names a segment or group that is gone, or goes round in a circle. */
export class RuleError extends Error {
  constructor(
    readonly reason: "cycle" | "missing segment" | "missing group",
    readonly segment: string,
  ) {
    super(
      {
        cycle: `The segment “${segment}” refers to itself, directly or through other segments.`,
        "missing segment": `The segment “${segment}” no longer exists.`,
        "missing group": `There is no standing group “${segment}”.`,
      }[reason],
    );
    this.name = "RuleError";
  }
}

/**
 * The rule that a name stands for, refusing circles and gaps.
 * @param path the segments being worked out
 * @returns the rule, and the path to what is in it
 */
export function namedRule(
  named: NamedRule,
  context: AudienceContext,
  path: readonly string[],
): [rule: Rule, path: readonly string[]] {
  if (named.kind === "standing") {
    const group = standingGroup(named.group);
    if (!group) throw new RuleError("missing group", named.group);
    return [group.rule(context), path];
  }
  const id = named.segment;
  const called = context.names?.get(id) ?? id;
  if (path.includes(id)) throw new RuleError("cycle", called);
  const rule = context.segments.get(id);
  if (!rule) throw new RuleError("missing segment", called);
  return [rule, [...path, id]];
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
    case "segment":
    case "standing": {
      const [meant, within] = namedRule(rule, context, path);
      const inner = predicate(meant, context, within);
      return rule.in ? inner : (contact) => !inner(contact);
    }
    case "status":
      return (contact) => (contact.status ?? "subscribed") === rule.status;
    case "did":
      return didPredicate(rule, context);
    case "field":
      return fieldPredicate(rule, context);
  }
}

/** The same; a rule that cannot be answered, since what it names is gone, is met by nobody. */
export function predicateOrNobody(rule: Rule, context: AudienceContext): (contact: Contact) => boolean {
  try {
    return predicate(rule, context);
  } catch (error) {
    if (!(error instanceof RuleError)) throw error;
    return () => false;
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
      // Folding keeps the length, so that most are told apart without it.
      const test = (contact: Contact) => {
        const text = value(contact);
        return typeof text === "string" && text.length === wanted.length && fold(text) === wanted;
      };
      return rule.op === "is" ? test : not(test);
    }
    case "anyOf":
    case "noneOf": {
      const wanted = new Set(rule.value.map(fold));
      const test = onText((text) => wanted.has(text));
      return rule.op === "anyOf" ? test : not(test);
    }
    case "contains":
    case "containsNot": {
      const wanted = fold(rule.value);
      const test = onText((text) => text.includes(wanted));
      return rule.op === "contains" ? test : not(test);
    }
    case "startsWith": {
      const wanted = fold(rule.value);
      return (contact) => {
        const text = value(contact);
        return typeof text === "string" && text.length >= wanted.length && fold(text).startsWith(wanted);
      };
    }
    case "endsWith": {
      const wanted = fold(rule.value);
      return onText((text) => text.endsWith(wanted));
    }
    case "equals":
    case "differs": {
      const test = onNumber((number) => number === rule.value);
      return rule.op === "equals" ? test : not(test);
    }
    case "atLeast":
      return onNumber((number) => number >= rule.value);
    case "atMost":
      return onNumber((number) => number <= rule.value);
    case "on":
      return onDate((date) => date === rule.value);
    case "onOrAfter":
      return onDate((date) => date >= rule.value);
    case "onOrBefore":
      return onDate((date) => date <= rule.value);
    case "withinLast": {
      const from = addSpan(context.today, rule.value, -1);
      return onDate((date) => date >= from && date <= context.today);
    }
    case "withinNext": {
      const to = addSpan(context.today, rule.value);
      return onDate((date) => date >= context.today && date <= to);
    }
    case "longerAgo": {
      const from = addSpan(context.today, rule.value, -1);
      return onDate((date) => date < from);
    }
    case "furtherAhead": {
      const to = addSpan(context.today, rule.value);
      return onDate((date) => date > to);
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
    case "includesAny":
      return (contact) => {
        const set = value(contact);
        return Array.isArray(set) && rule.value.some((wanted) => set.includes(wanted));
      };
    case "known":
      return known;
    case "unknown":
      return not(known);
  }
}
