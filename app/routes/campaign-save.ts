import { z } from "zod";
import { PackedStepsSchema } from "~/core/steps";
import { savedDesign, saveSteps } from "~/server/campaigns/saving";
import { jsonInput } from "../input";
import type { Route } from "./+types/campaign-save";

const Body = z.object({
  revision: z.number().int(),
  save: z.string().min(8).max(60),
  steps: PackedStepsSchema,
});

export function loader({ context, params }: Route.LoaderArgs) {
  return savedDesign(context.septima, params.campaign);
}

export async function action({ context, params, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return saveSteps(context.septima, params.campaign, body);
}
