import { useCallback, useEffect, useMemo, useState } from "react";
import { useUnsaved } from "./unsaved";

/**
 * What somebody writes over what is kept. Parts that they have not touched follow what is kept; those that they have stay
 * as they wrote them, whatever else is saved on the page or elsewhere meanwhile.
 * @param saved what came of the last saving once it went well, another object each time; then all is as it is kept
 */
export function useDraft<T extends object>(kept: T, saved: object | null | undefined) {
  const [changes, setChanges] = useState<Partial<T>>({});
  useEffect(() => {
    if (saved) setChanges({});
  }, [saved]);
  const draft = useMemo((): T => ({ ...kept, ...changes }), [kept, changes]);
  const set = useCallback((part: Partial<T>) => setChanges((before) => ({ ...before, ...part })), []);
  const changed = JSON.stringify(draft) !== JSON.stringify(kept);
  useUnsaved(changed);
  return { draft, changes, set, changed };
}
