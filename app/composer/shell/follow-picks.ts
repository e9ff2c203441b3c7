import { listAsks, placedIn } from "~/core/blocks";
import { tell } from "../../requests";
import type { Composer } from "../state/store";

/** So long after a change the lists are asked for, in milliseconds: who moves a number moves it on. */
const REST = 200;

/**
 * Keeps what lists by rule give right, for the reader on the canvas and the design as it stands. What they gave last stands
 * until the answer is there. Returns how to stop.
 */
export function followPicks(store: Composer): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let asking: AbortController | null = null;
  const questionOf = () => {
    const { email, reader } = store.getState();
    const asks = listAsks(email);
    return asks.length === 0 ? null : { reader: reader.id, asks, placed: placedIn(email) };
  };
  let known = JSON.stringify(questionOf());

  const ask = async () => {
    const question = questionOf();
    const now = JSON.stringify(question);
    if (now === known) return;
    known = now;
    asking?.abort();
    asking = new AbortController();
    const { signal } = asking;
    const { facts } = store.getState();
    const { result } = question
      ? await tell(
          "/campaigns/:campaign/picks",
          { intent: "show", ...question },
          { at: { campaign: facts.campaign }, signal },
        )
      : { result: [] };
    if (signal.aborted) return;
    // The server is away: they stay as they were, and are asked for at the next change.
    if (!result) known = "";
    else
      store.getState().set({
        facts: { ...store.getState().facts, picks: new Map(result.map((picked) => [picked.block, picked])) },
      });
  };

  const stop = store.subscribe((state, before) => {
    if (state.email === before.email && state.reader === before.reader) return;
    clearTimeout(timer);
    timer = setTimeout(ask, state.reader === before.reader ? REST : 0);
  });
  return () => {
    stop();
    clearTimeout(timer);
    asking?.abort();
  };
}
