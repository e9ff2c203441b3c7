import { useCallback, useEffect, useRef, useState } from "react";

const PAGE = 100;

/** A part of a long list. */
export interface Part<Row> {
  rows: Row[];
  total: number;
}

/** What the server says of a list that it cannot give. */
export class ListProblem extends Error {
  override name = "ListProblem";
}

const AWAY = "The server does not answer, so this cannot be shown. Try again.";

/**
 * A long list, fetched as far as it is looked at. `at` gives a row by its place, undefined while it is on its way.
 * @param key what is sought; another one begins anew
 * @param load fetches a part of what a key stands for; the same function always
 * @param version changes when the list may have changed
 */
export function usePages<Row, P extends Part<Row> = Part<Row>>(
  key: string,
  load: (key: string, from: number, count: number) => Promise<P>,
  { onPart, version }: { onPart?(part: P): void; version?: unknown } = {},
) {
  const [found, setFound] = useState<{
    key: string;
    total: number;
    pages: ReadonlyMap<number, Row[]>;
  } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(new Set<string>());
  const now = useRef(key);
  now.current = key;
  const told = useRef(onPart);
  told.current = onPart;
  const fetchPage = useCallback(
    async (forKey: string, page: number, anew = false) => {
      const name = `${forKey} ${page}`;
      if (asked.current.has(name) && !anew) return;
      asked.current.add(name);
      try {
        const part = await load(forKey, page * PAGE, PAGE);
        if (now.current !== forKey) return;
        told.current?.(part);
        setProblem(null);
        setFound((before) => ({
          key: forKey,
          total: part.total,
          pages: new Map([...(before?.key === forKey ? before.pages : []), [page, part.rows]]),
        }));
      } catch (error) {
        if (now.current === forKey) setProblem(error instanceof ListProblem ? error.message : AWAY);
      } finally {
        asked.current.delete(name);
      }
    },
    [load],
  );
  const current = found?.key === key ? found : null;
  const at = useCallback(
    (index: number): Row | undefined => found?.pages.get(Math.floor(index / PAGE))?.[index % PAGE],
    [found],
  );
  /** Sees to it that rows from one place to another are there. */
  const need = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++)
        if (current && page * PAGE < current.total && !current.pages.has(page)) void fetchPage(key, page);
    },
    [current, key, fetchPage],
  );
  const pages = useRef<readonly number[]>([0]);
  pages.current = found?.key === key ? [...found.pages.keys()] : [0];
  /** Asks for all of them again, once something has changed. */
  const reload = useCallback(async () => {
    await Promise.all(pages.current.map((page) => fetchPage(now.current, page, true)));
  }, [fetchPage]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another key or version is asked for anew
  useEffect(() => void reload(), [key, version, reload]);
  return {
    /** Null until the first answer; what was found before stays in view while something else is sought. */
    total: found?.total ?? null,
    seeking: current === null && problem === null,
    problem,
    at,
    need,
    reload,
  };
}
