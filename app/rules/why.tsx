import {
  type AudienceContext,
  type Contact,
  explainRule,
  type Reason,
  type Rule,
  RuleError,
  ruleNames,
} from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";

/** Why a reader meets a rule or does not; null for one that cannot be answered. */
export function whyOf(
  rule: Rule,
  reader: Contact,
  words: RuleWords,
  audience: AudienceContext,
): Reason | null {
  try {
    return explainRule(rule, reader, audience, ruleNames(words));
  } catch (error) {
    if (error instanceof RuleError) return null;
    throw error;
  }
}

/** The facts that decide a rule, as the end of a sentence. */
export function Facts({ facts }: Pick<Reason, "facts">) {
  return facts.map((fact, index) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: facts of a sentence have no identity besides their place
    <span key={index}>
      {index > 0 && (index === facts.length - 1 ? " and " : ", ")}
      {fact.map(({ text, strong }, at) =>
        // biome-ignore lint/suspicious/noArrayIndexKey: nor have the pieces of one
        strong ? <strong key={at}>{text}</strong> : <span key={at}>{text}</span>,
      )}
    </span>
  ));
}
