import { RuleSchema } from "~/core/audience";
import { countRule } from "~/server/audience/counting";
import { campaign } from "~/server/campaigns/campaigns";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/reader-count";

/** How many readers meet a rule that is being written; with `campaign`, of those who are to get it. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const rule = await jsonInput(request, RuleSchema);
  const id = new URL(request.url).searchParams.get("campaign");
  return orProblem(async () =>
    countRule(septima, rule, id ? (await campaign(septima, id)).readers : undefined),
  );
}
