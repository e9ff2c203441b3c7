import {
  type AudienceContext,
  type Contact,
  explainRule,
  factsInWords,
  type Reason,
  type Rule,
  RuleError,
  ruleNames,
  type Words,
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

/** A sentence in pieces, some of which carry its meaning. */
export const InWords = ({ words }: { words: Words }) =>
  words.map(({ text, strong }, at) =>
    // biome-ignore lint/suspicious/noArrayIndexKey: pieces of a sentence have no identity besides their place
    strong ? <strong key={at}>{text}</strong> : <span key={at}>{text}</span>,
  );

/** The facts that decide a rule, as the end of a sentence. */
export const Facts = ({ facts }: Pick<Reason, "facts">) => <InWords words={factsInWords(facts)} />;
