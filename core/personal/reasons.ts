/** Why a reader gets what they get, in words. */
import {
  type AudienceContext,
  type Contact,
  explainRule,
  factsInWords,
  type Rule,
  RuleError,
  type RuleNames,
  type Words,
} from "../audience";
import { type Lookup, lookupNamed, type MergeTag } from "../email";
import { caseFor } from "./said-to";
import { hasValue } from "./value";

/** What reasons are told by. */
export interface Telling {
  audience: AudienceContext;
  names: RuleNames;
  lookups: readonly Lookup[];
  /** What the reader’s own fields are called; nothing of what is no field of theirs. */
  label(field: string): string | undefined;
}

/**
 * Why a reader gets one of several cases, as the end of a sentence; nothing where no fact tells, or the rule cannot be
 * answered.
 * @param whens the rules of all cases
 * @param at which one they get; -1 for what everybody else gets
 */
export function caseReason(
  whens: readonly Rule[],
  at: number,
  contact: Contact,
  { audience, names }: Pick<Telling, "audience" | "names">,
): Words {
  const rule: Rule = at < 0 ? { kind: "any", of: [...whens] } : whens[at];
  try {
    const { facts } = explainRule(rule, contact, audience, names);
    return facts.length === 0 ? [] : [{ text: ", because " }, ...factsInWords(facts)];
  } catch (error) {
    if (error instanceof RuleError) return [];
    throw error;
  }
}

/** Where what a reader gets for a tag comes from, in a sentence; null for what is not of the reader. */
export function tagReason(
  { field, or, fallback }: Pick<MergeTag, "field" | "or" | "fallback">,
  contact: Contact,
  telling: Telling,
): Words | null {
  const { audience, lookups, label } = telling;
  const found = lookupNamed(field, lookups);
  if (found) {
    const { cases } = found.lookup;
    const at = caseFor({ cases }, contact, audience);
    const whens = cases.map(({ when }) => when);
    return [
      { text: at < 0 ? "What everybody else gets" : `The case “${cases[at].name || at + 1}”` },
      ...caseReason(whens, at, contact, telling),
      { text: "." },
    ];
  }
  const own = label(field);
  if (own === undefined) return null;
  if (hasValue(contact, field)) return [{ text: `From “${own}”.` }];
  const other = or && (label(or) ?? or);
  if (or && hasValue(contact, or)) return [{ text: `From “${other}”, because “${own}” is not known.` }];
  const missing = other ? `neither “${own}” nor “${other}” is known` : `“${own}” is not known`;
  return [
    { text: `${fallback === "" ? "Nothing" : "What stands for those without it"}, because ${missing}.` },
  ];
}
