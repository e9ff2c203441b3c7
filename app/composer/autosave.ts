import { commands, mergeEmails } from "~/core/compose";
import { type Email, findNode } from "~/core/email";
import { type Composer, newId } from "./store";

const QUIET = 600;
const RETRY = 4000;

const key = (campaign: string) => `septima draft ${campaign}`;

/** A design that never reached the server, kept in this browser. */
export interface Stranded {
  revision: number;
  email: Email;
  /** What was saved last before it. */
  base: Email | null;
}

export function strandedDraft(campaign: string): Stranded | null {
  try {
    const text = localStorage.getItem(key(campaign));
    return text === null ? null : (JSON.parse(text) as Stranded);
  } catch {
    return null;
  }
}

export function dropStranded(campaign: string): void {
  localStorage.removeItem(key(campaign));
}

type Answer =
  | { saved: true; revision: number; at: string }
  | { saved: false; revision: number; email: Email; at: string };

/**
 * Saves the design a moment after each change, on the revision it was made on. While the server is away the design
 * is kept in the browser and sent when it is back; a newer revision on the server is never overwritten.
 */
export function startAutosave(store: Composer): { now(): Promise<void>; stop(): void } {
  const { campaign } = store.getState().facts;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let saved = store.getState().email;
  let busy: Promise<void> | null = null;

  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void now(), ms);
  };

  const save = async () => {
    const { email, revision, saving, set } = store.getState();
    if (email === saved || saving.state === "conflict") return;
    set({ saving: { state: "saving", at: saving.at } });
    let answer: Answer;
    try {
      const response = await fetch(`/campaigns/${campaign}/save`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ revision, email, base: saved }),
      });
      if (response.status !== 200 && response.status !== 409)
        throw new Error(`The server answered ${response.status}`);
      answer = (await response.json()) as Answer;
    } catch {
      set({ saving: { state: "away", at: saving.at } });
      later(RETRY);
      return;
    }
    if (!answer.saved) {
      set({
        saving: {
          state: "conflict",
          at: answer.at,
          other: answer.email,
          otherRevision: answer.revision,
          base: saved,
        },
      });
      return;
    }
    saved = email;
    const more = store.getState().email !== email;
    set({ revision: answer.revision, saving: { state: more ? "waiting" : "saved", at: answer.at } });
    if (more) later(QUIET);
    else dropStranded(campaign);
  };

  const now = async () => {
    clearTimeout(timer);
    if (busy) await busy;
    busy = save().finally(() => {
      busy = null;
    });
    await busy;
  };

  const stop = store.subscribe((state, before) => {
    if (state.email === before.email) return;
    const { saving, revision, email, set } = state;
    try {
      localStorage.setItem(key(campaign), JSON.stringify({ revision, email }));
    } catch {
      // The browser's store is full or closed: the server still gets every change.
    }
    if (saving.state === "saved") set({ saving: { state: "waiting", at: saving.at } });
    if (saving.state !== "conflict") later(saving.state === "away" ? RETRY : QUIET);
  });

  return {
    now,
    stop() {
      stop();
      clearTimeout(timer);
      void save();
    },
  };
}

/** Ends a conflict: both sides' changes together, or only one side's. */
export function settleConflict(
  store: Composer,
  keep: "both" | "mine" | "theirs",
  prefer: "mine" | "theirs",
): void {
  const { saving, email, set, apply, facts } = store.getState();
  if (saving.state !== "conflict") return;
  const { base, other, otherRevision, at } = saving;
  set({ revision: otherRevision, saving: { state: "waiting", at } });
  if (keep === "mine") set({ email: { ...email } });
  else if (keep === "both" && base)
    apply(
      commands.replaceDesign(mergeEmails(base, email, other, prefer).email, newId),
      "Bringing both together",
    );
  else {
    apply(commands.replaceDesign(other, newId), "Taking the other design");
    dropStranded(facts.campaign);
  }
  const { selection, email: now } = store.getState();
  const gone = selection !== null && !findNode(now, selection);
  set({ editing: null, selection: gone ? null : selection });
}
