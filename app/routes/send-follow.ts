import { followProgress, type Progress } from "~/server/dispatch/progress";
import { eventStream } from "../event-stream";
import type { Route } from "./+types/send-follow";

/** How far the newest sending of a campaign is, as long as the page is open. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  return eventStream<Progress>(request, septima.stopping, (told, closed) =>
    followProgress(septima, params.campaign, told, closed),
  );
}
