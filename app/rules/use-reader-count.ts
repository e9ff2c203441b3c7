import { createContext, useContext, useEffect, useState } from "react";
import type { Rule } from "~/core/audience";
import type { CountedRule } from "~/server/audience/counting";
import { asking, tell } from "../requests";

export type PartCounts = CountedRule["parts"];

interface Counted {
  /** Null while they are being counted. */
  count: number | null;
  problem: string | null;
  /** Some of them by name. */
  names: readonly string[];
  parts?: PartCounts;
}

const COUNTING: Counted = { count: null, problem: null, names: [] };

/** The campaign whose readers are counted; everybody where there is none. */
export const CountedIn = createContext<string | null>(null);

/** How many readers meet a rule while it is being written, some of them, and what each line does. */
export function useReaderCount(rule: Rule | undefined): Counted {
  const campaign = useContext(CountedIn) ?? undefined;
  const [answer, setAnswer] = useState<(Counted & { for: string }) | null>(null);
  const key = rule ? JSON.stringify(rule) : "";
  useEffect(() => {
    if (key === "") return;
    const { signal, abort } = asking();
    const timer = setTimeout(async () => {
      const { result, problem } = await tell("/readers/count", JSON.parse(key) as Rule, {
        query: { campaign },
        signal,
      });
      if (signal.aborted) return;
      const { count = null, names = [], parts } = result ?? {};
      setAnswer({ for: key, count, problem, names, parts });
    }, 200);
    return () => {
      clearTimeout(timer);
      abort();
    };
  }, [key, campaign]);
  return answer?.for === key ? answer : COUNTING;
}
