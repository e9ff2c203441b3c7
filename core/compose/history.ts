import type { Email } from "../email";
import { type Clash, difference, invert, joinSteps, rebase, type Step } from "../steps";
import { type Done, Past } from "../values";
import type { Changed } from "./commands";

/** One thing that was done to a document. */
interface Deed extends Done {
  /** What the designer did, as "Undo …" says it. */
  label: string;
  steps: readonly Step[];
}

/** What came of undoing or redoing. */
interface Undone {
  history: History;
  email: Email;
  deed: Deed;
  /** The node that came back, or that was changed; null when it is gone or it was the email itself. */
  node: string | null;
  /** What somebody else changed since, and so was left. */
  clashes: readonly Clash[];
}

/** What was done to a document and can be undone and redone. */
export type History = Past<Deed>;

const join = (first: Deed, second: Deed): Deed => ({
  ...second,
  label: first.label,
  steps: joinSteps(first.steps, second.steps),
});

export const History = {
  empty: Past.empty as History,

  /**
   * Adds a change. Changes without effect leave no trace.
   * @param closes whether it belongs to the deed before it of the same key, however long ago that was, and ends that
   */
  add(history: History, change: Changed, label: string, at: number, merge?: string, closes = false): History {
    if (change.steps.length === 0) return history;
    const next = Past.add(
      history,
      { label, steps: change.steps, merge, at },
      join,
      closes ? Infinity : undefined,
    );
    return closes ? Past.rest(next) : next;
  },

  /** Takes the last deed back, also on a document that others changed since; null when there is none. */
  undo(history: History, email: Email): Undone | null {
    const back = Past.back(history);
    return back && carried(email, back, invert(back.deed.steps));
  },

  /** Does again what was undone last; null when there is nothing. */
  redo(history: History, email: Email): Undone | null {
    const forth = Past.forth(history);
    return forth && carried(email, forth, forth.deed.steps);
  },
};

function carried(
  email: Email,
  { deed, past }: { deed: Deed; past: History },
  steps: readonly Step[],
): Undone {
  const result = rebase(email, steps);
  const what = difference(email, result.email);
  const came = what.find((step) => step.op === "insert");
  const touched = what.find((step) => step.op === "set" || step.op === "move");
  const node = came ? came.node.id : (touched?.id ?? null);
  return { history: past, email: result.email, deed, node, clashes: result.clashes };
}
