import { findingCounts } from "~/server/preflight/preflight";
import type { Route } from "./+types/preflight-counts";

/** How many findings of each weight a campaign has: what stands at the step in its bar. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  return findingCounts(septima, params.campaign, request.signal);
}
