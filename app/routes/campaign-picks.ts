import { z } from "zod";
import { ListAskSchema } from "~/core/picking";
import { contactById } from "~/server/audience/contacts";
import { campaign } from "~/server/campaigns/campaigns";
import { pickedFor, pickNumbers } from "~/server/sources/picks";
import { actions, way } from "../deeds";
import type { Route } from "./+types/campaign-picks";

/** The lists of a design that may not be saved yet, and what stands in it by hand. */
const Lists = { asks: z.array(ListAskSchema).max(200), placed: z.array(z.string().max(1100)).max(5000) };

/** What lists by rule give a reader, and all whom the campaign is for. */
export const action = actions({
  show: way(
    z.object({ ...Lists, reader: z.number().int() }),
    async ({ reader, ...lists }, { context: { septima }, params }: Route.ActionArgs) =>
      pickedFor(septima, { ...lists, campaign: params.campaign }, await contactById(septima, reader)),
  ),
  count: way(z.object(Lists), async (lists, { context: { septima }, params }: Route.ActionArgs) => {
    const { readers } = await campaign(septima, params.campaign);
    return pickNumbers(septima, { ...lists, campaign: params.campaign }, readers);
  }),
});
