import { describeRule, type Rule } from "~/core/audience";
import type { RuleWords } from "./rule-editor";

/** A rule spelt out, with the parts that carry the meaning in bold. */
export function RuleSentence({ rule, words }: { rule: Rule; words: RuleWords }) {
  const pieces = describeRule(rule, {
    fields: words.fields,
    lists: new Map(words.lists.map((list) => [list.id, list.name])),
    segments: new Map(words.segments.map((segment) => [segment.id, segment.name])),
  });
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
