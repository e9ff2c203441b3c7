import { campaignPicture } from "~/server/campaigns/rendering";
import { pictureAnswer } from "../picture-answer";
import type { Route } from "./+types/campaign-picture";

/** The email itself, as one reader or most get it. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const reader = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  return pictureAnswer(await campaignPicture(context.septima, params.campaign, reader), 0);
}
