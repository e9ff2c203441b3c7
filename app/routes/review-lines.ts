import { linesOf } from "~/server/review/look";
import { reviewBy } from "~/server/review/reviews";
import { seenOf } from "../review/seen";
import type { Route } from "./+types/review-lines";

/** What an inbox shows of an edition, for a reviewer. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const { campaign } = await reviewBy(septima, params.token);
  return linesOf(septima, campaign, seenOf(request).edition);
}
