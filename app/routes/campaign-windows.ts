import { z } from "zod";
import { goneFrom, seenIn } from "~/server/campaigns/saving";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-windows";

const Body = z.object({ window: z.string().min(4).max(60), closed: z.boolean().optional() });

export async function action({ context, params, request }: Route.ActionArgs) {
  const { window, closed } = Body.parse(await request.json());
  if (!closed) return orNotHere(() => seenIn(context.septima, params.campaign, window));
  await goneFrom(context.septima, params.campaign, window);
  return null;
}
