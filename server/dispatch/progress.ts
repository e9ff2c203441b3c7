/** How the newest sending of a campaign goes: asked, or told as it happens. */
import type { Septima } from "../septima";
import { type Dispatch, dispatchesOf, whenWords } from "./dispatches";
import { type Pace, paceOf } from "./recipients";

export interface Progress {
  /** Milliseconds since 1970: how it was then. */
  now: number;
  dispatch: (Dispatch & { when: string }) | null;
  pace: Pace | null;
}

/** How the newest sending of a campaign goes just now. */
export async function progressOf(septima: Septima, campaignId: string): Promise<Progress> {
  const [dispatch] = await dispatchesOf(septima, campaignId, 1);
  return {
    now: septima.now(),
    dispatch: dispatch ? { ...dispatch, when: whenWords(dispatch) } : null,
    pace: dispatch ? await paceOf(septima, dispatch.id) : null,
  };
}

/** So often it is told while something moves, and while nothing does, in milliseconds; at once when its state changes. */
const EVERY = { moving: 500, resting: 10_000 };

/** Tells how it goes until it is closed; resolves once it was told for the first time. */
export async function followProgress(
  septima: Septima,
  campaignId: string,
  told: (progress: Progress) => void,
  closed: AbortSignal,
): Promise<void> {
  let wake: () => void = () => undefined;
  const rest = (milliseconds: number) =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, milliseconds);
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const tell = async () => {
    const progress = await progressOf(septima, campaignId);
    if (!closed.aborted) told(progress);
    const state = progress.dispatch?.state;
    return state === "gathering" || state === "sending" ? EVERY.moving : EVERY.resting;
  };
  const goOn = async (first: number) => {
    const deaf = septima.news.of("dispatches", "any", () => wake());
    closed.addEventListener("abort", () => wake());
    for (let pause = first; !closed.aborted; ) {
      await rest(pause);
      try {
        if (!closed.aborted) pause = await tell();
      } catch {
        // The database is away: whoever looks sees how old the last words are.
      }
    }
    deaf();
  };
  void goOn(await tell());
}
