import { useCallback, useEffect, useState } from "react";
import type { Theme } from "~/core/email";
import { joinSwaps, Past, type Swap } from "~/core/values";
import { useComposerStore } from "../state/store";

/**
 * Changes to the theme that is being made, which can be taken back and made again, by the keys of undo and redo as well:
 * while a theme is made they are about it, and not about the email.
 */
export function useThemeHistory() {
  const store = useComposerStore();
  const [past, setPast] = useState<Past<Swap<Theme>>>(Past.empty);

  /** @param merge what is changed, as words that are the same for the same thing */
  const change = (next: Partial<Theme>, merge: string) => {
    const { trial: before } = store.getState();
    if (!before) return;
    const after = { ...before, ...next };
    setPast((all) => Past.add(all, { before, after, merge, at: Date.now() }, joinSwaps));
    store.getState().set({ trial: after });
  };
  const travel = useCallback(
    (way: "back" | "forth") => {
      const went = Past[way](past);
      if (!went || !store.getState().trial) return;
      setPast(Past.rest(went.past));
      store.getState().set({ trial: way === "back" ? went.deed.before : went.deed.after });
    },
    [store, past],
  );

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== "z" && key !== "y") return;
      event.preventDefault();
      event.stopPropagation();
      travel(key === "y" || event.shiftKey ? "forth" : "back");
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [travel]);

  return {
    change,
    undo: past.done.length > 0 ? () => travel("back") : null,
    redo: past.undone.length > 0 ? () => travel("forth") : null,
  };
}
