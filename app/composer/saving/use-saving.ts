import { useEffect, useState } from "react";
import { type Email, findNode } from "~/core/email";
import { type Composer, newId } from "../state/store";
import { Autosave, type Clock, type Keep, type Kept, type SavingHost } from "./autosave";
import { followDesign } from "./follow-design";
import { browserKeep, dropKept, keepers, keptBy } from "./keep";
import { asked } from "./questions";
import { closedAmong, ownWindow } from "./window";
import { httpWire } from "./wire";

const browserClock: Clock = {
  later(ms, work) {
    const timer = setTimeout(work, ms);
    return () => clearTimeout(timer);
  },
};

/** Takes over a design from elsewhere; what is gone is no longer selected. */
function takeOver(store: Composer, email: Email): void {
  const { selection, also, editing } = store.getState();
  const there = (id: string | null) => id !== null && findNode(email, id) !== undefined;
  store.setState({
    email,
    selection: there(selection) ? selection : null,
    also: also.filter(there),
    editing: there(editing) ? editing : null,
  });
}

function hostOf(store: Composer, say: (text: string) => void): SavingHost {
  return {
    read: () => store.getState().email,
    write: (email) => takeOver(store, email),
    say: (saving) => store.setState({ saving }),
    ask: (clashes, mine) =>
      store.setState((state) => ({ questions: asked(state.questions, clashes, mine), dialog: "questions" })),
    noteOrder: () =>
      say("Another window put the same parts in another order. Have a look at how they stand now."),
    questions: () => store.getState().questions,
  };
}

/** Saves what a window left behind that was closed before its changes reached the server. */
async function saveLeft(
  campaign: string,
  window: string,
  kept: Kept,
  store: Composer,
  say: (text: string) => void,
): Promise<void> {
  const { email: left, sentEmail } = Autosave.resume(kept);
  let email = left;
  const keep: Keep = { put: () => true, drop: () => undefined };
  const host: SavingHost = {
    ...hostOf(store, say),
    read: () => email,
    write: (next) => {
      email = next;
    },
    say: () => undefined,
  };
  const autosave = new Autosave(kept.base, kept.revision, "", {
    host,
    wire: httpWire(campaign),
    keep,
    clock: { later: () => () => undefined },
    newId,
  });
  if (kept.sent && sentEmail) autosave.takeUp({ ...kept.sent, email: sentEmail });
  if (await autosave.flush()) dropKept(campaign, window, localStorage);
}

/**
 * Saves the composer's design from now on, and brings in what others save. What an earlier window of this browser
 * could not save is taken up first. Null until it is ready.
 */
export function useSaving(store: Composer, say: (text: string) => void): Autosave | null {
  const [autosave, setAutosave] = useState<Autosave | null>(null);
  useEffect(() => {
    const { campaign } = store.getState().facts;
    let ended = false;
    const stops: (() => void)[] = [];
    const begin = async () => {
      const window = await ownWindow();
      if (ended) return;
      const { email, revision, saving, lock } = store.getState();
      const wire = httpWire(campaign);
      const given = {
        host: hostOf(store, say),
        wire,
        keep: browserKeep(campaign, window, localStorage),
        clock: browserClock,
        newId,
      };
      const kept = lock ? null : keptBy(campaign, window, localStorage);
      let made: Autosave;
      if (kept) {
        const { email: left, sentEmail } = Autosave.resume(kept);
        made = new Autosave(kept.base, kept.revision, saving.at, given);
        if (kept.sent && sentEmail) made.takeUp({ ...kept.sent, email: sentEmail });
        store.setState({ questions: kept.questions });
        takeOver(store, left);
        if (kept.steps.length > 0) say("Changes that had not reached the server were brought back.");
      } else made = new Autosave(email, revision, saving.at, given);
      stops.push(
        store.subscribe((state, before) => {
          if (state.email !== before.email || state.questions !== before.questions) made.changed();
        }),
        watchWindow(made),
        followDesign(campaign, window, store, made),
        () => made.stop(),
      );
      setAutosave(made);
      if (kept) await made.flush();
      const left = lock
        ? []
        : await closedAmong(keepers(campaign, localStorage).filter((one) => one !== window));
      for (const one of left) {
        const theirs = keptBy(campaign, one, localStorage);
        if (theirs) await saveLeft(campaign, one, theirs, store, say);
        else dropKept(campaign, one, localStorage);
      }
      if (left.length > 0 && !ended) await made.pull();
    };
    void begin();
    return () => {
      ended = true;
      for (const stop of stops) stop();
    };
  }, [store, say]);
  return autosave;
}

/** Keeps and saves when the window is left, hidden or online again. */
function watchWindow(autosave: Autosave): () => void {
  const hide = () => {
    autosave.keepNow();
    void autosave.flush();
  };
  const leave = (event: BeforeUnloadEvent) => {
    if (autosave.atRisk) event.preventDefault();
  };
  const online = () => void autosave.flush();
  window.addEventListener("pagehide", hide);
  window.addEventListener("beforeunload", leave);
  window.addEventListener("online", online);
  return () => {
    window.removeEventListener("pagehide", hide);
    window.removeEventListener("beforeunload", leave);
    window.removeEventListener("online", online);
  };
}
