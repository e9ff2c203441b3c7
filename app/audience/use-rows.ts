import { useCallback, useEffect, useRef, useState } from "react";
import type { Contact } from "~/core/audience";
import type { TableQuery } from "~/server/audience/table";

const PAGE = 100;

interface Found {
  key: string;
  total: number;
  pages: ReadonlyMap<number, Contact[]>;
}

/** The rows of a table of contacts, fetched as far as they are looked at. `version` changes when they may have. */
export function useRows(query: TableQuery, version: unknown) {
  const key = JSON.stringify(query);
  const [found, setFound] = useState<Found | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(new Set<string>());
  const now = useRef(key);
  now.current = key;
  const fetchPage = useCallback(async (forKey: string, page: number, anew = false) => {
    const name = `${forKey} ${page}`;
    if (asked.current.has(name) && !anew) return;
    asked.current.add(name);
    try {
      const response = await fetch("/audience/rows", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ query: JSON.parse(forKey), from: page * PAGE, count: PAGE }),
      });
      const answer = (await response.json()) as {
        problem: string | null;
        result: { total: number; rows: Contact[] } | null;
      };
      if (now.current !== forKey) return;
      setProblem(answer.problem);
      const { total, rows } = answer.result ?? { total: 0, rows: [] };
      setFound((before) => ({
        key: forKey,
        total,
        pages: new Map([...(before?.key === forKey && !anew ? before.pages : []), [page, rows]]),
      }));
    } catch {
      if (now.current === forKey)
        setProblem("The server does not answer, so the contacts cannot be shown. Try again.");
    } finally {
      asked.current.delete(name);
    }
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another version is asked for anew
  useEffect(() => void fetchPage(key, 0, true), [key, fetchPage, version]);
  const current = found?.key === key ? found : null;
  const at = useCallback(
    (index: number): Contact | undefined => found?.pages.get(Math.floor(index / PAGE))?.[index % PAGE],
    [found],
  );
  const need = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++)
        if (current && page * PAGE < current.total && !current.pages.has(page)) void fetchPage(key, page);
    },
    [current, key, fetchPage],
  );
  /** Null until the first answer; what was found before stays in view while something else is sought. */
  return { total: found?.total ?? null, seeking: current === null && problem === null, problem, at, need };
}
