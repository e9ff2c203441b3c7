import { campaigns } from "~/server/campaigns/campaigns";
import type { Route } from "./+types/find";

export interface FoundCampaign {
  id: string;
  name: string;
  series: string;
}

/** What can be found from anywhere: the campaigns. */
export async function loader({ context }: Route.LoaderArgs) {
  const found: FoundCampaign[] = (await campaigns(context.septima)).map(({ id, name, series }) => ({
    id,
    name,
    series,
  }));
  return Response.json(found);
}
