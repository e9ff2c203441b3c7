import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { campaign } from "~/server/campaigns/campaigns";
import { editionsOrWhy } from "~/server/campaigns/rendering";
import { action as one } from "../deeds";
import { input } from "../input";
import type { Route } from "./+types/campaign-editions";

/** The editions of a design that may not be saved yet, across the campaign's readers; none with a rule that is wrong. */
export const action = one(z.unknown(), async (design, { context: { septima }, params }: Route.ActionArgs) => {
  const email = input({ parse: parseEmail }, design);
  const { readers } = await campaign(septima, params.campaign);
  return editionsOrWhy(septima, email, readers, params.campaign);
});
