import type { Patch } from "immer";
import type { Email } from "../email";
import { type Change, patchEmail } from "./commands";

/** One thing that can be undone. */
export interface Step {
  /** What the designer did, as "Undo …" says it. */
  label: string;
  forward: Patch[];
  back: Patch[];
  /** Steps with the same key that follow each other closely become one, as with typing. */
  merge?: string;
  /** When it was done, in milliseconds. */
  at: number;
}

const MERGE_WITHIN = 1500;

/** What was done to a document and can be undone and redone, without limit. Values, not a class: kept in a store. */
export interface History {
  done: readonly Step[];
  undone: readonly Step[];
}

export const History = {
  empty: { done: [], undone: [] } as History,

  /** Adds a change. Changes without effect leave no step. */
  add(history: History, change: Change, label: string, at: number, merge?: string): History {
    if (change.forward.length === 0) return history;
    const last = history.done.at(-1);
    if (
      merge !== undefined &&
      last?.merge === merge &&
      at - last.at < MERGE_WITHIN &&
      history.undone.length === 0
    ) {
      const joined: Step = {
        label: last.label,
        merge,
        at,
        forward: [...last.forward, ...change.forward],
        back: [...change.back, ...last.back],
      };
      return { done: [...history.done.slice(0, -1), joined], undone: [] };
    }
    return {
      done: [...history.done, { label, forward: change.forward, back: change.back, merge, at }],
      undone: [],
    };
  },

  /** The document before the last step, or null when there is none. */
  undo(history: History, email: Email): { history: History; email: Email; step: Step } | null {
    const step = history.done.at(-1);
    if (!step) return null;
    return {
      email: patchEmail(email, step.back),
      history: { done: history.done.slice(0, -1), undone: [...history.undone, step] },
      step,
    };
  },

  /** The document after the step undone last, or null when there is none. */
  redo(history: History, email: Email): { history: History; email: Email; step: Step } | null {
    const step = history.undone.at(-1);
    if (!step) return null;
    return {
      email: patchEmail(email, step.forward),
      history: { done: [...history.done, step], undone: history.undone.slice(0, -1) },
      step,
    };
  },
};
