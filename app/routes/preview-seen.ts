import { seenBy } from "~/server/preflight/who-sees-what";
import type { Route } from "./+types/preview-seen";

/** Everything in a campaign that depends on its reader, as one of them gets it. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const reader = Number(new URL(request.url).searchParams.get("reader"));
  return seenBy(septima, params.campaign, reader);
}
