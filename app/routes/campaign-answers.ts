import { answerCounts } from "~/server/answers";
import type { Route } from "./+types/campaign-answers";

/** How many gave which answer to this campaign's surveys. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return Response.json(await answerCounts(context.septima, params.campaign));
}
