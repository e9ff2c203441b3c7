import { linesOf } from "~/server/review/look";
import { seenOf } from "../review/seen";
import type { Route } from "./+types/campaign-lines";

/** What an inbox shows of an edition. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  return linesOf(septima, params.campaign, seenOf(request).edition);
}
