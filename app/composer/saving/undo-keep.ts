/** What can be undone outlives a reload, and a look at another page: the window keeps it while it is open. */
import { useEffect } from "react";
import { z } from "zod";
import { History } from "~/core/compose";
import { SCHEMA_VERSION } from "~/core/email";
import { useComposerStore } from "../state/store";

const keyOf = (campaign: string) => `septima undo ${SCHEMA_VERSION} ${campaign}`;
/** So many deeds are kept, the last ones. */
const MOST = 200;

const StepSchema = z.looseObject({ op: z.enum(["insert", "remove", "move", "set"]) });
const DeedsSchema = z.array(
  z.object({
    label: z.string(),
    steps: z.array(StepSchema),
    merge: z.string().optional(),
    at: z.number(),
  }),
);
const HistorySchema = z.object({ done: DeedsSchema, undone: DeedsSchema });

/** Keeps a history; only the latest of it where there is no room for all. */
function keepHistory(campaign: string, history: History, store: Storage): void {
  for (let most = MOST; most > 0; most = Math.floor(most / 2)) {
    try {
      const kept = { done: history.done.slice(-most), undone: history.undone.slice(-most) };
      store.setItem(keyOf(campaign), JSON.stringify(kept));
      return;
    } catch {
      // There is no room: fewer deeds may fit.
    }
  }
}

/** The history that was kept; none when there is none that can be read. */
function keptHistory(campaign: string, store: Storage): History {
  try {
    // Our own steps, kept by this version of the schema: what they hold was checked when they were made.
    return HistorySchema.parse(JSON.parse(store.getItem(keyOf(campaign)) ?? "")) as unknown as History;
  } catch {
    return History.empty;
  }
}

/** Keeps the composer's history in the window, and takes it up again. */
export function useKeptHistory(): void {
  const store = useComposerStore();
  useEffect(() => {
    const { campaign } = store.getState().facts;
    const before = keptHistory(campaign, sessionStorage);
    // A design that others changed meanwhile is no hindrance: undo works on what it has become.
    if (store.getState().history === History.empty && before.done.length + before.undone.length > 0)
      store.setState({ history: before });
    const keep = () => keepHistory(campaign, store.getState().history, sessionStorage);
    window.addEventListener("pagehide", keep);
    return () => {
      window.removeEventListener("pagehide", keep);
      keep();
    };
  }, [store]);
}
