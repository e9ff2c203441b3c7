import { RuleSchema } from "~/core/audience";
import { findReaders } from "~/server/audience/groups";
import { orProblem } from "../refusal";
import type { Route } from "./+types/reader-count";

/** How many readers meet a rule that is being written. */
export async function action({ context, request }: Route.ActionArgs) {
  const rule = RuleSchema.parse(await request.json());
  return orProblem(() => findReaders(context.septima, rule));
}
