import { version } from "~/server/campaigns/versions";
import type { Route } from "./+types/campaign-version";

/** The design as it was in one of its versions. */
export function loader({ context, params }: Route.LoaderArgs) {
  return version(context.septima, params.campaign, params.version);
}
