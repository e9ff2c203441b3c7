import type { Rule } from "~/core/audience";
import { Facts, whyOf } from "../../rules/why";
import { useComposer } from "../state/store";

/**
 * Why the reader on the canvas gets one of several cases, as the end of a sentence; nothing where no fact tells.
 * @param whens the rules of all cases
 * @param at which one they get; -1 for what everybody else gets
 */
export function CaseWhy({ whens, at }: { whens: readonly Rule[]; at: number }) {
  const reader = useComposer((state) => state.reader);
  const { words, audience } = useComposer((state) => state.facts);
  const rule: Rule = at < 0 ? { kind: "any", of: [...whens] } : whens[at];
  const why = whyOf(rule, reader, words, audience);
  if (!why || why.facts.length === 0) return null;
  return (
    <>
      , because <Facts facts={why.facts} />
    </>
  );
}
