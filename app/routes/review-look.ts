import { lookOver } from "~/server/review/look";
import { reviewBy } from "~/server/review/reviews";
import { pictureAnswer } from "../picture-answer";
import { seenOf } from "../review/seen";
import type { Route } from "./+types/review-look";

/** The email as a reviewer looks at it. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const { campaign } = await reviewBy(septima, params.token);
  return pictureAnswer(await lookOver(septima, campaign, seenOf(request)), 0);
}
