import { campaign } from "~/server/campaigns/campaigns";
import { draftNumbers } from "~/server/campaigns/rendering";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-numbers";

/** How many readers and editions a draft has. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const draft = await orNotHere(() => campaign(septima, params.campaign));
  const numbers = await draftNumbers(septima, draft);
  return numbers ? Response.json(numbers) : new Response("There are none.", { status: 404 });
}
