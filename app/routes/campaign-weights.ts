import { pictureWeights } from "~/server/pictures/weights";
import type { Route } from "./+types/campaign-weights";

/** What the pictures of a campaign weigh. */
export function loader({ context, params }: Route.LoaderArgs) {
  return pictureWeights(context.septima, params.campaign);
}
