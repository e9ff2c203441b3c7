import { campaign } from "~/server/campaigns/campaigns";
import { draftNumbers } from "~/server/campaigns/rendering";
import type { Route } from "./+types/campaign-numbers";

/** How many readers and editions a draft has; null where that cannot be told. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return draftNumbers(septima, await campaign(septima, params.campaign));
}
