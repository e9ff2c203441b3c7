import { z } from "zod";
import { stillOf } from "~/server/workspace/stills";
import { action as one } from "../deeds";
import type { Route } from "./+types/still";

/** Takes the still of a film from the address of its page. */
export const action = one(
  z.object({ address: z.string() }),
  ({ address }, { context: { septima } }: Route.ActionArgs) => stillOf(septima, address),
);
