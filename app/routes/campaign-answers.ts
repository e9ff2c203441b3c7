import { answerCounts } from "~/server/campaigns/survey-answers";
import type { Route } from "./+types/campaign-answers";

/** How many gave which answer to this campaign's surveys. */
export function loader({ context, params }: Route.LoaderArgs) {
  return answerCounts(context.septima, params.campaign);
}
