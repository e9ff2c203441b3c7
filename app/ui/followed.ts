/** What the server tells as it happens (server-sent events), where there is room for it. */
import { useEffect, useState } from "react";

/** How many windows of one browser are told: each takes one of the few connections that it opens to a server. */
const AT_ONCE = 3;

/** Takes one of the places that the windows of this browser share; null when all are taken. Returns how to leave it. */
export async function placeToBeTold(): Promise<(() => void) | null> {
  if (!navigator.locks) return () => undefined;
  for (let place = 1; place <= AT_ONCE; place++) {
    const letGo = await new Promise<(() => void) | null>((resolve) => {
      void navigator.locks.request(`septima told ${place}`, { ifAvailable: true }, (lock) => {
        if (!lock) return resolve(null);
        return new Promise<void>((done) => resolve(() => done()));
      });
    });
    if (letGo) return letGo;
  }
  return null;
}

/** Longer than the server is ever silent, in milliseconds. */
const SILENCE = 25_000;

/**
 * What an address tells, as long as it is shown; null asks nothing.
 * @returns what it told last, and whether it tells: otherwise there was no room, or the connection is gone, and it is to be asked
 */
export function useFollowed<T>(address: string | null): { last: T | null; tells: boolean } {
  const [last, setLast] = useState<T | null>(null);
  const [tells, setTells] = useState(false);
  useEffect(() => {
    if (address === null) return;
    let ended = false;
    let letGo: (() => void) | null = null;
    let source: EventSource | null = null;
    let silent: ReturnType<typeof setTimeout> | undefined;
    const begin = async () => {
      letGo = await placeToBeTold();
      if (ended) letGo?.();
      if (ended || !letGo) return;
      source = new EventSource(address);
      source.onmessage = ({ data }) => {
        clearTimeout(silent);
        silent = setTimeout(() => setTells(false), SILENCE);
        setLast(JSON.parse(data as string) as T);
        setTells(true);
      };
      // The browser tries again by itself, where that is of use.
      source.onerror = () => setTells(false);
    };
    void begin();
    return () => {
      ended = true;
      clearTimeout(silent);
      source?.close();
      letGo?.();
      setTells(false);
    };
  }, [address]);
  return { last, tells };
}
