import { RuleSchema } from "~/core/audience";
import { countRule } from "~/server/audience/counting";
import { campaign } from "~/server/campaigns/campaigns";
import { action as one } from "../deeds";
import type { Route } from "./+types/reader-count";

/** How many readers meet a rule that is being written; with `campaign`, of those who are to get it. */
export const action = one(RuleSchema, async (rule, { context: { septima }, request }: Route.ActionArgs) => {
  const id = new URL(request.url).searchParams.get("campaign");
  return countRule(septima, rule, id ? (await campaign(septima, id)).readers : undefined);
});
