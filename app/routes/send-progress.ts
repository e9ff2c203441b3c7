import { progressOf } from "~/server/dispatch/progress";
import type { Route } from "./+types/send-progress";

/** How far the newest sending of a campaign is, how it goes, and what time it is: for who is not told. */
export function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return progressOf(septima, params.campaign);
}
