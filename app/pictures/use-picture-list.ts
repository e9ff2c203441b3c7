import { useCallback, useEffect, useRef, useState } from "react";
import type { Filing, PictureQuery } from "~/server/pictures/library";
import type { Picture } from "./upload";

export type Sought = Partial<Pick<PictureQuery, "words" | "which" | "folder" | "label" | "order">>;

const PAGE = 100;

interface Part {
  pictures: Picture[];
  total: number;
  filing: Filing | null;
}

/**
 * The pictures of the library that fit, fetched as far as they are looked at.
 * `at` gives one by its place in the order, undefined while it is on its way.
 */
export function usePictureList(sought: Sought) {
  const key = new URLSearchParams(
    Object.entries(sought).filter(([, value]) => value !== undefined && value !== "") as [string, string][],
  ).toString();
  const [found, setFound] = useState<{ key: string; total: number; pages: Map<number, Picture[]> } | null>(
    null,
  );
  const [filing, setFiling] = useState<Filing | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(new Set<string>());
  const now = useRef(key);
  now.current = key;
  const fetchPage = useCallback(async (forKey: string, page: number) => {
    const name = `${forKey} ${page}`;
    if (asked.current.has(name)) return;
    asked.current.add(name);
    try {
      const response = await fetch(`/pictures/list?${forKey}&from=${page * PAGE}&count=${PAGE}`);
      const part = (await response.json()) as Part;
      if (now.current !== forKey) return;
      if (part.filing) setFiling(part.filing);
      setProblem(null);
      setFound((before) => ({
        key: forKey,
        total: part.total,
        pages: new Map([...(before?.key === forKey ? before.pages : []), [page, part.pictures]]),
      }));
    } catch {
      setProblem("The server does not answer, so the pictures cannot be shown. Try again.");
    } finally {
      asked.current.delete(name);
    }
  }, []);
  useEffect(() => void fetchPage(key, 0), [key, fetchPage]);
  const current = found?.key === key ? found : null;
  const at = useCallback(
    (index: number): Picture | undefined => found?.pages.get(Math.floor(index / PAGE))?.[index % PAGE],
    [found],
  );
  /** Sees to it that pictures from one place to another are there. */
  const need = useCallback(
    (from: number, to: number) => {
      for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++)
        if (current && page * PAGE < current.total && !current.pages.has(page)) void fetchPage(key, page);
    },
    [current, key, fetchPage],
  );
  /** Asks for all of them again, once something has changed. */
  const reload = useCallback(async () => {
    const pages = [...(found?.pages.keys() ?? [0])];
    await Promise.all(pages.map((page) => fetchPage(now.current, page)));
  }, [found, fetchPage]);
  return {
    /** Null until the first answer; what was found before stays in view while something else is sought. */
    total: found?.total ?? null,
    searching: current === null && problem === null,
    filing,
    problem,
    at,
    need,
    reload,
  };
}
