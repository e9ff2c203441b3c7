import { RuleSchema } from "~/core/audience";
import { countRule } from "~/server/audience/counting";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/reader-count";

/** How many readers meet a rule that is being written. */
export async function action({ context, request }: Route.ActionArgs) {
  const rule = await jsonInput(request, RuleSchema);
  return orProblem(() => countRule(context.septima, rule));
}
