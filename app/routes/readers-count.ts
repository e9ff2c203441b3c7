import { countSelection } from "~/server/audience/selection";
import { campaign } from "~/server/campaigns/campaigns";
import type { Route } from "./+types/readers-count";

/** Who of the audience gets a campaign, each subtraction by itself, as things are now. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { readers } = await campaign(septima, params.campaign);
  return countSelection(septima, readers);
}
