import { createContext, useContext, useEffect, useState } from "react";
import type { Rule } from "~/core/audience";
import type { CountedRule } from "~/server/audience/counting";

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

/** Where a rule is sent to be counted. */
export const countAddress = (campaign: string | null) =>
  campaign === null ? "/readers/count" : `/readers/count?campaign=${encodeURIComponent(campaign)}`;

/** How many readers meet a rule while it is being written, some of them, and what each line does. */
export function useReaderCount(rule: Rule | undefined): Counted {
  const address = countAddress(useContext(CountedIn));
  const [answer, setAnswer] = useState<(Counted & { for: string }) | null>(null);
  const key = rule ? JSON.stringify(rule) : "";
  useEffect(() => {
    if (key === "") return;
    const ending = new AbortController();
    const timer = setTimeout(async () => {
      try {
        const response = await fetch(address, { method: "POST", body: key, signal: ending.signal });
        const { result, problem } = (await response.json()) as {
          result: CountedRule | null;
          problem: string | null;
        };
        setAnswer({
          for: key,
          count: result?.count ?? null,
          problem,
          names: result?.names ?? [],
          parts: result?.parts,
        });
      } catch {
        if (!ending.signal.aborted)
          setAnswer({ ...COUNTING, for: key, problem: "The readers cannot be counted just now." });
      }
    }, 200);
    return () => {
      clearTimeout(timer);
      ending.abort();
    };
  }, [key, address]);
  return answer?.for === key ? answer : COUNTING;
}
