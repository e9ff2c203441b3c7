import { lookOver } from "~/server/review/look";
import { pictureAnswer } from "../picture-answer";
import { seenOf } from "../review/seen";
import type { Route } from "./+types/campaign-look";

/** The email as colleagues look at it together. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  return pictureAnswer(await lookOver(septima, params.campaign, seenOf(request)), 0);
}
