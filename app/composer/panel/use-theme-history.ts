import { useCallback, useEffect, useRef, useState } from "react";
import type { Theme } from "~/core/email";
import { useComposerStore } from "../store";

/** Changes of one thing that follow each other within so many milliseconds are taken back together. */
const TOGETHER = 1000;

/**
 * Changes to the theme that is being made, which can be taken back and made again, by the keys of undo and redo as well:
 * while a theme is made they are about it, and not about the email.
 */
export function useThemeHistory() {
  const store = useComposerStore();
  const [past, setPast] = useState<readonly Theme[]>([]);
  const [future, setFuture] = useState<readonly Theme[]>([]);
  const last = useRef<{ of: string; at: number }>(null);

  /** @param of what is changed, as words that are the same for the same thing */
  const change = (next: Partial<Theme>, of: string) => {
    const { trial } = store.getState();
    if (!trial) return;
    const now = performance.now();
    const together = last.current?.of === of && now - last.current.at < TOGETHER;
    last.current = { of, at: now };
    if (!together) setPast((all) => [...all, trial]);
    setFuture([]);
    store.getState().set({ trial: { ...trial, ...next } });
  };
  const step = useCallback(
    (from: readonly Theme[], setFrom: typeof setPast, setTo: typeof setPast) => {
      const { trial, set } = store.getState();
      const next = from.at(-1);
      if (!trial || !next) return;
      setFrom(from.slice(0, -1));
      setTo((all) => [...all, trial]);
      last.current = null;
      set({ trial: next });
    },
    [store],
  );
  const undo = useCallback(() => step(past, setPast, setFuture), [step, past]);
  const redo = useCallback(() => step(future, setFuture, setPast), [step, future]);

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== "z" && key !== "y") return;
      event.preventDefault();
      event.stopPropagation();
      if (key === "y" || event.shiftKey) redo();
      else undo();
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [undo, redo]);

  return { change, undo: past.length > 0 ? undo : null, redo: future.length > 0 ? redo : null };
}
