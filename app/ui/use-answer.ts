import { useEffect, useState } from "react";
import type { Answer } from "../refusal";
import { asking } from "../requests";

interface Asked<T, K> {
  /** What the server answered to this question; null so long, and when it would not. */
  result: T | null;
  /** Why there is none, in a sentence. */
  problem: string | null;
  /** What it answered last, be it to the question before: `lastKey`. */
  last: T | null;
  lastKey: K | null;
  /** Whether the answer is still on its way. */
  waiting: boolean;
}

/** So long after the server could not be reached it is asked again, in milliseconds. */
const ASK_AGAIN = 3000;

/**
 * What the server answers, from when something is shown until it is not; of two questions the later counts.
 * @param key what is asked: with another one it is asked again; null asks nothing
 * @param after how long to wait before asking, in milliseconds, while the key may still change
 */
export function useAnswer<T, K>(
  key: K | null,
  question: (signal: AbortSignal) => Promise<Answer<T>>,
  after = 0,
): Asked<T, K> {
  const [answer, setAnswer] = useState<(Answer<T> & { to: K }) | null>(null);
  const [last, setLast] = useState<{ result: T | null; to: K } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is what the question is made of
  useEffect(() => {
    if (key === null) return;
    const { signal, abort } = asking();
    const ask = async () => {
      const next = await question(signal);
      if (signal.aborted) return;
      // Whoever is away is asked again until there is an answer.
      if (next.problem !== null && next.away) timer = setTimeout(ask, ASK_AGAIN);
      setAnswer({ to: key, ...next });
      if (next.problem === null) setLast({ to: key, ...next });
    };
    let timer = setTimeout(ask, after);
    return () => {
      clearTimeout(timer);
      abort();
    };
  }, [key]);
  const mine = key !== null && answer?.to === key ? answer : null;
  return {
    result: mine?.result ?? null,
    problem: mine?.problem ?? null,
    last: last?.result ?? null,
    lastKey: last?.to ?? null,
    waiting: key !== null && mine === null,
  };
}
