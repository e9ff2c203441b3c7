import { z } from "zod";
import { talksOf } from "~/server/review/comments";
import { giveVerdict, reviewBy } from "~/server/review/reviews";
import { actions, way } from "../deeds";
import { talkWays } from "../review/talk-ways";
import type { Route } from "./+types/review-talks";

/** What is said of the campaign, for a reviewer. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { campaign } = await reviewBy(septima, params.token);
  return { now: septima.now(), talks: await talksOf(septima, campaign) };
}

/** Something is said by a reviewer: of a place, or of the whole. Their link says who they are. */
export const action = actions({
  ...talkWays(async ({ context: { septima }, params: { token = "" } }) => {
    const { id, reviewer, campaign } = await reviewBy(septima, token);
    return { campaign, by: { name: reviewer, review: id } };
  }),
  verdict: way(
    z.object({
      verdict: z.enum(["approved", "changes"]),
      words: z.string(),
      revision: z.number().int(),
    }),
    async (given, { context: { septima }, params }: Route.ActionArgs) => {
      await giveVerdict(septima, params.token, given);
      return null;
    },
  ),
});
