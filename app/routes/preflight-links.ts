import { z } from "zod";
import { tryLinks } from "~/server/preflight/links";
import { action as one } from "../deeds";
import type { Route } from "./+types/preflight-links";

/** Tries the next few links of a campaign, as their servers answer now. */
export const action = one(
  z.object({ from: z.number().int().min(0) }),
  ({ from }, { context: { septima }, params }: Route.ActionArgs) => tryLinks(septima, params.campaign, from),
);
