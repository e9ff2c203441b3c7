import { useEffect, useState } from "react";
import type { Change } from "~/server/audience/changing";
import { ask } from "../requests";

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
    const look = async () => {
      const { result: now } = await ask("/audience/changes/:change", { at: { change: id } });
      if (!wanted) return;
      if (now) setChange(now);
      if (now && now.state !== "running" && now.state !== "undoing") onEnd?.(now);
      // Also when the server is away, since the change may go on there.
      else timer = setTimeout(look, ASK);
    };
    void look();
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [id]);
  return change?.id === id ? change : null;
}
