import { describeRule, type Rule, type RuleNames } from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";

const named = (all: readonly { id: string; name: string }[]) =>
  new Map(all.map(({ id, name }) => [id, name]));

/** What the ids in rules are called. */
export const namesOf = (words: RuleWords): RuleNames => ({
  fields: words.fields,
  lists: named(words.lists),
  segments: named(words.segments),
  campaigns: named(words.behaviour.campaigns),
  products: named(words.behaviour.products),
});

/** A rule spelt out, with the parts that carry the meaning in bold. */
export function RuleSentence({ rule, words }: { rule: Rule; words: RuleWords }) {
  const pieces = describeRule(rule, namesOf(words));
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
