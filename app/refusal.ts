import { data } from "react-router";
import { RuleError } from "~/core/audience";
import { Refusal } from "~/server/refusal";

/** What comes of asking for something, or of having it done: it, or why not in a sentence, and whether that passes by itself. */
export type Answer<T> = { problem: null; result: T } | { problem: string; result: null; away?: boolean };

/** Runs an action's work; what the user can mend comes back as `{ problem }` with its status, the rest is thrown. */
export async function orProblem<T>(work: () => Promise<T>) {
  try {
    return data({ problem: null, result: await work() });
  } catch (error) {
    if (error instanceof Refusal)
      return data({ problem: error.message, result: null }, { status: error.status });
    if (error instanceof RuleError) return data({ problem: error.message, result: null }, { status: 400 });
    throw error;
  }
}
