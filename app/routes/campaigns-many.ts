import { z } from "zod";
import { changeSeveral, DoingSchema, MOST_AT_ONCE } from "~/server/campaigns/many";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/campaigns-many";

const Body = z.object({ ids: z.array(z.string()).min(1).max(MOST_AT_ONCE), doing: DoingSchema });

/** Does the same to several campaigns or templates. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { ids, doing } = await jsonInput(request, Body);
  return orProblem(() => changeSeveral(septima, ids, doing));
}
