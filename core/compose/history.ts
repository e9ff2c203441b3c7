import type { Email } from "../email";
import { type Clash, difference, invert, joinSteps, rebase, type Step } from "../steps";
import type { Change } from "./commands";

/** One thing that was done and can be undone. */
export interface Deed {
  /** What the designer did, as "Undo …" says it. */
  label: string;
  steps: readonly Step[];
  /** Deeds with the same key that follow each other closely become one, as with typing. */
  merge?: string;
  /** When it was done, in milliseconds. */
  at: number;
}

/** What came of undoing or redoing. */
export interface Undone {
  history: History;
  email: Email;
  deed: Deed;
  /** The node that came back, or that was changed; null when it is gone or it was the email itself. */
  node: string | null;
  /** What somebody else changed since, and so was left. */
  clashes: readonly Clash[];
}

const MERGE_WITHIN = 1500;

/** What was done to a document and can be undone and redone, without limit. Values, not a class: kept in a store. */
export interface History {
  done: readonly Deed[];
  undone: readonly Deed[];
}

export const History = {
  empty: { done: [], undone: [] } as History,

  /**
   * Adds a change. Changes without effect leave no trace.
   * @param closes whether it belongs to the deed before it of the same key, however long ago that was
   */
  add(history: History, change: Change, label: string, at: number, merge?: string, closes = false): History {
    if (change.steps.length === 0) return history;
    const last = history.done.at(-1);
    const follows = merge !== undefined && last?.merge === merge && (closes || at - last.at < MERGE_WITHIN);
    if (last && follows && history.undone.length === 0) {
      const joined = { label: last.label, merge, at, steps: joinSteps(last.steps, change.steps) };
      return { done: [...history.done.slice(0, -1), joined], undone: [] };
    }
    return { done: [...history.done, { label, steps: change.steps, merge, at }], undone: [] };
  },

  /** Takes the last deed back, also on a document that others changed since; null when there is none. */
  undo(history: History, email: Email): Undone | null {
    const deed = history.done.at(-1);
    if (!deed) return null;
    const next = { done: history.done.slice(0, -1), undone: [...history.undone, deed] };
    return carried(email, deed, invert(deed.steps), next);
  },

  /** Does again what was undone last; null when there is nothing. */
  redo(history: History, email: Email): Undone | null {
    const deed = history.undone.at(-1);
    if (!deed) return null;
    const next = { done: [...history.done, deed], undone: history.undone.slice(0, -1) };
    return carried(email, deed, deed.steps, next);
  },
};

function carried(email: Email, deed: Deed, steps: readonly Step[], history: History): Undone {
  const result = rebase(email, steps);
  const what = difference(email, result.email);
  const came = what.find((step) => step.op === "insert");
  const touched = what.find((step) => step.op === "set" || step.op === "move");
  const node = came ? came.node.id : (touched?.id ?? null);
  return { history, email: result.email, deed, node, clashes: result.clashes };
}
