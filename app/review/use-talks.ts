import { createContext, useContext, useEffect, useState, useSyncExternalStore } from "react";
import type { Place, Talk } from "~/server/review/comments";
import type { Answer } from "../refusal";
import { useAnswer } from "../ui/use-answer";

/** What can be done with talks; each gives the sentence of why not, or null. */
export interface TalkDeeds {
  begin(place: Place, words: string, reader: number | null): Promise<string | null>;
  answer(talk: string, words: string): Promise<string | null>;
  resolve(talk: string, resolved: boolean): Promise<string | null>;
}

export interface Talks extends TalkDeeds {
  talks: readonly Talk[];
  now: number;
  /** Why they cannot be had. */
  problem: string | null;
  /** Who writes, where no link says so. */
  author: { name: string; rename(name: string): void } | null;
}

const Context = createContext<Talks | null>(null);
export const TalksProvider = Context.Provider;

/** The talks of what is looked at. */
export function useTalks(): Talks {
  const talks = useContext(Context);
  if (!talks) throw new Error("outside of what is talked about");
  return talks;
}

/** While a page is looked at, it asks this often what others have said, in milliseconds. */
const ASK_AGAIN = 8000;

/** The talks as they are now, and as they become while one looks. */
export function useLiveTalks(
  ask: (signal: AbortSignal) => Promise<Answer<{ talks: readonly Talk[]; now: number }>>,
  tell: (
    body:
      | ({ intent: "begin"; words: string; reader: number | null } & Place)
      | { intent: "answer"; talk: string; words: string }
      | { intent: "resolve"; talk: string; resolved: boolean },
  ) => Promise<Answer<unknown>>,
): Omit<Talks, "author"> {
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => {
      if (document.visibilityState === "visible") setTurn((it) => it + 1);
    }, ASK_AGAIN);
    return () => clearInterval(timer);
  }, []);
  const { last, problem } = useAnswer(turn, ask);
  const done = async (body: Parameters<typeof tell>[0]) => {
    const answer = await tell(body);
    if (answer.problem === null) setTurn((it) => it + 1);
    return answer.problem;
  };
  return {
    talks: last?.talks ?? [],
    now: last?.now ?? Date.now(),
    problem,
    begin: (place, words, reader) => done({ intent: "begin", ...place, words, reader }),
    answer: (talk, words) => done({ intent: "answer", talk, words }),
    resolve: (talk, resolved) => done({ intent: "resolve", talk, resolved }),
  };
}

const NAME = "septima-own-name";
const hearers = new Set<() => void>();
/** That name as it is now; empty where there is none yet. */
export const ownName = () => {
  try {
    return localStorage.getItem(NAME) ?? "";
  } catch {
    // Where nothing may be kept, the name is asked for each time.
    return "";
  }
};

/** The name of whoever works in this browser, as it stands beside what they write. */
export function useOwnName(): { name: string; rename(name: string): void } {
  const name = useSyncExternalStore(
    (heard) => {
      hearers.add(heard);
      return () => void hearers.delete(heard);
    },
    ownName,
    () => "",
  );
  return {
    name,
    rename(next) {
      try {
        localStorage.setItem(NAME, next);
      } catch {
        return;
      }
      for (const heard of hearers) heard();
    },
  };
}
