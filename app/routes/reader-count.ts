import { RuleSchema } from "~/core/audience";
import { findReaders } from "~/server/audience/groups";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/reader-count";

/** How many readers meet a rule that is being written. */
export async function action({ context, request }: Route.ActionArgs) {
  const rule = await jsonInput(request, RuleSchema);
  return orProblem(() => findReaders(context.septima, rule));
}
