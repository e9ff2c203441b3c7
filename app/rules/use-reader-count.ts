import { createContext, useContext } from "react";
import type { Rule } from "~/core/audience";
import type { CountedRule } from "~/server/audience/counting";
import { tell } from "../requests";
import { useAnswer } from "../ui/use-answer";

export type PartCounts = CountedRule["parts"];

interface Counted {
  /** Null while they are being counted. */
  count: number | null;
  problem: string | null;
  /** Some of them by name. */
  names: readonly string[];
  parts?: PartCounts;
}

/** While a rule is written it changes with each letter: so long none comes, in milliseconds. */
const TYPING = 200;

const COUNTING: Counted = { count: null, problem: null, names: [] };

/** The campaign whose readers are counted; everybody where there is none. */
export const CountedIn = createContext<string | null>(null);

/** How many readers meet a rule while it is being written, some of them, and what each line does. */
export function useReaderCount(rule: Rule | undefined): Counted {
  const campaign = useContext(CountedIn) ?? undefined;
  const key = rule ? JSON.stringify([rule, campaign]) : null;
  const { result, problem } = useAnswer(
    key,
    (signal) => tell("/readers/count", rule as Rule, { query: { campaign }, signal }),
    TYPING,
  );
  return { ...COUNTING, ...result, problem };
}
