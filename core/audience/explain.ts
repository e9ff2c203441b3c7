/** Why somebody meets a rule or does not, in words, with what is known of them. */
import { timesDone } from "./behaviour";
import { type Contact, type FieldDef, fieldValue } from "./contact";
import type { AudienceContext } from "./context";
import { dayIn } from "./dates";
import { didWords, type RuleNames, type Words } from "./describe";
import { namedRule, predicate } from "./predicate";
import type { FieldRule, Rule } from "./rule";
import { isDay } from "./values";

/** Whether a rule is met, and the facts that decide it, each as the end of a sentence about the contact. */
export interface Reason {
  met: boolean;
  facts: Words[];
}

const dates = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "long",
  year: "numeric",
  timeZone: "UTC",
});
const dayWords = (day: string) => dates.format(new Date(`${day}T00:00:00Z`));

/**
 * Why a contact meets a rule, or does not: of all that must be met what fails, or everything; of any that may be met
 * the first that is, or that none is.
 * @throws RuleError when a segment is missing or refers to itself
 */
export function explainRule(
  rule: Rule,
  contact: Contact,
  context: AudienceContext,
  names: RuleNames,
  path: readonly string[] = [],
): Reason {
  switch (rule.kind) {
    case "all":
    case "any":
    case "none": {
      const parts = rule.of.map((part) => explainRule(part, contact, context, names, path));
      const met =
        rule.kind === "all"
          ? parts.every((part) => part.met)
          : rule.kind === "any"
            ? parts.some((part) => part.met)
            : !parts.some((part) => part.met);
      // One that is met decides "any" and breaks "none"; one that is not breaks "all".
      const one = parts.find((part) => part.met === (rule.kind !== "all"));
      const single = rule.kind === "any" ? met : !met;
      const facts = single && one ? one.facts : parts.flatMap((part) => part.facts);
      return { met, facts: once(facts) };
    }
    case "segment":
    case "standing": {
      const [meant, within] = namedRule(rule, context, path);
      const inner = explainRule(meant, contact, context, names, within);
      return { met: inner.met === rule.in, facts: inner.facts };
    }
    default:
      return { met: predicate(rule, context)(contact), facts: [factOf(rule, contact, context, names)] };
  }
}

/** Facts as the end of one sentence. */
export const factsInWords = (facts: readonly Words[]): Words =>
  facts.flatMap((fact, at) => [
    ...(at === 0 ? [] : [{ text: at === facts.length - 1 ? " and " : ", " }]),
    ...fact,
  ]);

/** The same fact decides several lines at times; it is said once. */
const once = (facts: readonly Words[]): Words[] => [
  ...new Map(facts.map((fact) => [fact.map(({ text }) => text).join(""), fact])).values(),
];

type Leaf = Exclude<Rule, { of: Rule[] } | { kind: "segment" | "standing" }>;

function factOf(rule: Leaf, contact: Contact, context: AudienceContext, names: RuleNames): Words {
  switch (rule.kind) {
    case "field":
      return fieldFact(rule, contact, names.fields);
    case "list": {
      const on = contact.lists.includes(rule.list);
      const name = names.lists.get(rule.list) ?? "(deleted list)";
      return [{ text: on ? "is on the list " : "is not on the list " }, { text: name, strong: true }];
    }
    case "status":
      return [{ text: "is " }, { text: contact.status ?? "subscribed", strong: true }];
    case "did": {
      const history = contact.history ?? { events: [], orders: [] };
      const { times, last } = timesDone(rule, context)(history);
      const day =
        last === null ? [] : [{ text: `, last on ${dayWords(dayIn(context.zone ?? "UTC", last))}` }];
      return [...didWords(rule, names, times), ...day];
    }
  }
}

function fieldFact({ field }: FieldRule, contact: Contact, fields: readonly FieldDef[]): Words {
  const def = fields.find(({ key }) => key === field);
  const label = (def?.label ?? field).toLowerCase();
  const subject = { text: `${label} `, strong: true };
  const value = fieldValue(contact, field);
  const known = (one: unknown) => def?.options?.find((option) => option.value === one)?.label ?? String(one);
  if (value === undefined || value === null || value === "" || (Array.isArray(value) && value.length === 0))
    return [subject, { text: "is not known" }];
  const written = Array.isArray(value)
    ? value.map(known).join(", ")
    : typeof value === "boolean"
      ? value
        ? "yes"
        : "no"
      : typeof value === "string" && isDay(value)
        ? dayWords(value)
        : known(value);
  return [subject, { text: "is " }, { text: written, strong: true }];
}
