import { data } from "react-router";
import { RuleError } from "~/core/audience";
import { Refusal } from "~/server/refusal";

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

/** Runs a loader's work; what is not there becomes a page that says so. */
export async function orNotHere<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Refusal) throw data(error.message, { status: error.status });
    throw error;
  }
}
