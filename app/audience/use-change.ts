import { useEffect, useState } from "react";
import type { Change } from "~/server/audience/changing";

/** How often is asked how far it is, in milliseconds. */
const ASK = 400;

/** A change to many contacts while it goes on; null until it is known. Of no id, nothing. */
export function useChange(id: string | null, onEnd?: (change: Change) => void): Change | null {
  const [change, setChange] = useState<Change | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is done at the end does not begin it anew
  useEffect(() => {
    if (id === null) return;
    let wanted = true;
    let timer: ReturnType<typeof setTimeout>;
    const ask = async () => {
      try {
        const response = await fetch(`/audience/changes/${id}`);
        if (!wanted) return;
        if (response.ok) {
          const now = (await response.json()) as Change;
          setChange(now);
          if (now.state !== "running" && now.state !== "undoing") {
            onEnd?.(now);
            return;
          }
        }
      } catch {
        // The server is away: it is asked again, since the change may go on there.
      }
      if (wanted) timer = setTimeout(ask, ASK);
    };
    void ask();
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [id]);
  return change?.id === id ? change : null;
}
