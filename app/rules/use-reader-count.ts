import { useEffect, useState } from "react";
import type { Rule } from "~/core/audience";

/** How many readers meet a rule while it is being written; `null` while it is being counted. */
export function useReaderCount(rule: Rule | undefined): { count: number | null; problem: string | null } {
  const [answer, setAnswer] = useState<{ for: string; count: number | null; problem: string | null } | null>(
    null,
  );
  const key = rule ? JSON.stringify(rule) : "";
  useEffect(() => {
    if (key === "") return;
    const ending = new AbortController();
    const timer = setTimeout(async () => {
      try {
        const response = await fetch("/readers/count", { method: "POST", body: key, signal: ending.signal });
        const { result, problem } = (await response.json()) as {
          result: { count: number } | null;
          problem: string | null;
        };
        setAnswer({ for: key, count: result?.count ?? null, problem });
      } catch {
        if (!ending.signal.aborted)
          setAnswer({ for: key, count: null, problem: "The readers cannot be counted just now." });
      }
    }, 200);
    return () => {
      clearTimeout(timer);
      ending.abort();
    };
  }, [key]);
  return answer?.for === key ? answer : { count: null, problem: null };
}
