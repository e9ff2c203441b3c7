import { describeRule, type Rule, ruleNames } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";

/** A rule spelt out, with the parts that carry the meaning in bold. */
export function RuleSentence({ rule, words }: { rule: Rule; words: RuleWords }) {
  const pieces = describeRule(rule, ruleNames(words));
  return (
    <>
      Readers{" "}
      {pieces.map((piece, index) =>
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces of a sentence have no identity besides their place
        piece.strong ? <strong key={index}>{piece.text}</strong> : <span key={index}>{piece.text}</span>,
      )}
    </>
  );
}

/** How many meet a rule, and some of them. */
export function WhoMeets({ count, names }: { count: string; names: readonly string[] }) {
  return (
    <p aria-live="polite">
      <span className="font-semibold text-teal">{count}</span>
      {names.length > 0 && <span className="text-ink-soft">, such as {names.join(", ")}</span>}
    </p>
  );
}
