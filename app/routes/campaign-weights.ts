import { pictureWeights } from "~/server/pictures/weights";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-weights";

/** What the pictures of a campaign weigh. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return Response.json(await orNotHere(() => pictureWeights(context.septima, params.campaign)));
}
