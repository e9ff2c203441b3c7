import { type Rule, ruleNames } from "~/core/audience";
import { caseReason } from "~/core/personal";
import { InWords } from "../../rules/why";
import { useComposer } from "../state/store";

/** Why the reader on the canvas gets one of several cases, as the end of a sentence, as `caseReason` tells it. */
export function CaseWhy({ whens, at }: { whens: readonly Rule[]; at: number }) {
  const reader = useComposer((state) => state.reader);
  const { words, audience } = useComposer((state) => state.facts);
  return <InWords words={caseReason(whens, at, reader, { audience, names: ruleNames(words) })} />;
}
