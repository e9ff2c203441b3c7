import { talksOf } from "~/server/review/comments";
import { actions } from "../deeds";
import { talkWays } from "../review/talk-ways";
import type { Route } from "./+types/campaign-talks";

/** What is said of a campaign. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return { now: septima.now(), talks: await talksOf(septima, params.campaign) };
}

/** Something is said by a colleague. */
export const action = actions(
  talkWays(async ({ params: { campaign = "" } }, name) => ({
    campaign,
    by: { name, review: null },
  })),
);
