import { z } from "zod";
import { PackedStepsSchema } from "~/core/steps";
import { setAside, takeUp } from "~/server/preflight/aside";
import { mendFinding, preflight, takeBackMend } from "~/server/preflight/preflight";
import { keepWords } from "~/server/preflight/spelling";
import { actions, way } from "../deeds";
import type { Route } from "./+types/preflight-findings";

/** What is wrong with a campaign as it is saved: at once what its design tells, or with each of its editions. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const quick = new URL(request.url).searchParams.has("quick");
  return preflight(septima, params.campaign, { quick, signal: request.signal });
}

type Args = Route.ActionArgs;
const id = z.string().max(40);

/** Mends what was found, sets it aside, and takes it up again. */
export const action = actions({
  mend: way(z.object({ id }), (finding, { context: { septima }, params }: Args) =>
    mendFinding(septima, params.campaign, finding.id),
  ),
  takeBack: way(
    z.object({ revision: z.number().int(), back: PackedStepsSchema }),
    (mended, { context: { septima }, params }: Args) => takeBackMend(septima, params.campaign, mended),
  ),
  aside: way(
    z.object({ id, state: id, reason: z.string().max(500) }),
    (finding, { context: { septima }, params }: Args) => setAside(septima, params.campaign, finding),
  ),
  keepWords: way(
    z.object({ words: z.array(z.string().max(80)).max(100) }),
    async ({ words }, { context: { septima } }: Args) => {
      await keepWords(septima, words);
      return null;
    },
  ),
  takeUp: way(z.object({ id }), (finding, { context: { septima }, params }: Args) =>
    takeUp(septima, params.campaign, finding.id),
  ),
});
