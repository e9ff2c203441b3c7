import { dispatchesOf, whenWords } from "~/server/dispatch/dispatches";
import { paceOf } from "~/server/dispatch/recipients";
import type { Route } from "./+types/send-progress";

/** How far the newest sending of a campaign is, how it goes, and what time it is. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const [dispatch] = await dispatchesOf(septima, params.campaign, 1);
  return {
    now: septima.now(),
    dispatch: dispatch ? { ...dispatch, when: whenWords(dispatch) } : null,
    pace: dispatch ? await paceOf(septima, dispatch.id) : null,
  };
}
