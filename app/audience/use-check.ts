import { useEffect, useState } from "react";
import type { Plan } from "~/core/importing";
import type { Check } from "~/server/audience/import-check";

export interface Checking {
  /** Null while it is being worked out. */
  check: Check | null;
  problem: string | null;
  /** How many lines were looked at so far. */
  seen: number;
}

type Line = { seen: number } | { problem: string | null; result: Check | null };

/** So long after the last change a plan is looked at, in milliseconds. */
const WAIT = 350;

/** What a plan for a file would come to, worked out anew whenever it changes. */
export function useCheck(file: string, plan: Plan): Checking {
  const key = JSON.stringify(plan);
  const [state, setState] = useState<Checking & { for: string }>({
    for: "",
    check: null,
    problem: null,
    seen: 0,
  });
  useEffect(() => {
    const ending = new AbortController();
    const hear = (line: Line) => {
      if ("seen" in line) setState({ for: key, check: null, problem: null, seen: line.seen });
      else
        setState({
          for: key,
          check: line.result,
          problem: line.problem,
          seen: line.result?.counts.seen ?? 0,
        });
    };
    const ask = async () => {
      try {
        const response = await fetch(`/audience/import/${file}/check`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: key,
          signal: ending.signal,
        });
        if (!response.ok || !response.body) throw new Error(await response.text());
        const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
        let rest = "";
        for (;;) {
          const { done, value } = await reader.read();
          if (done) break;
          const lines = `${rest}${value}`.split("\n");
          rest = lines.pop() ?? "";
          for (const line of lines) hear(JSON.parse(line) as Line);
        }
      } catch {
        if (!ending.signal.aborted)
          setState({
            for: key,
            check: null,
            problem:
              "It cannot be worked out just now, since the server does not answer. Nothing was brought in.",
            seen: 0,
          });
      }
    };
    const timer = setTimeout(() => void ask(), WAIT);
    return () => {
      clearTimeout(timer);
      ending.abort();
    };
  }, [file, key]);
  return state.for === key ? state : { check: null, problem: null, seen: 0 };
}
