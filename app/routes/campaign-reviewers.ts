import { z } from "zod";
import { askAgain, askReviews, MOST_DAYS, withdrawReview } from "~/server/review/reviews";
import { actions, way } from "../deeds";
import type { Route } from "./+types/campaign-reviewers";

type Args = Route.ActionArgs;
const Asked = z.object({ note: z.string().max(2000), days: z.number().int().min(1).max(MOST_DAYS) });

/** Asks somebody to look a campaign over, asks again, or takes a link back. */
export const action = actions({
  ask: way(Asked.extend({ who: z.string().max(4000) }), (asked, { context, params }: Args) =>
    askReviews(context.septima, params.campaign, asked),
  ),
  again: way(Asked.extend({ id: z.string() }), async (asked, { context, params }: Args) => {
    await askAgain(context.septima, params.campaign, asked);
    return null;
  }),
  withdraw: way(z.object({ id: z.string() }), async ({ id }, { context, params }: Args) => {
    await withdrawReview(context.septima, params.campaign, id);
    return null;
  }),
});
