import { z } from "zod";
import { askRehearsal, callOffRehearsal, rehearsalOf } from "~/server/rehearsal/rehearsal";
import { action as one } from "../deeds";
import type { Route } from "./+types/preflight-rehearsal";

/** How the last rehearsal of a campaign stands, or what came of it. */
export function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return rehearsalOf(septima, params.campaign);
}

/** Begins a rehearsal, or calls it off. */
export const action = one(
  z.object({ on: z.boolean() }),
  ({ on }, { context: { septima }, params }: Route.ActionArgs) =>
    on ? askRehearsal(septima, params.campaign) : callOffRehearsal(septima, params.campaign),
);
