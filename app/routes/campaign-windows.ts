import { z } from "zod";
import { goneFrom, seenIn } from "~/server/campaigns/saving";
import { jsonInput } from "../input";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-windows";

const Body = z.object({ window: z.string().min(4).max(60), closed: z.boolean().optional() });

export async function action({ context, params, request }: Route.ActionArgs) {
  const { window, closed } = await jsonInput(request, Body);
  if (!closed) return orNotHere(() => seenIn(context.septima, params.campaign, window));
  await goneFrom(context.septima, params.campaign, window);
  return null;
}
