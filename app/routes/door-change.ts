import { z } from "zod";
import { makeKey, NewKeySchema, withdrawKey } from "~/server/door/keys";
import { actions, way } from "../deeds";
import type { Route } from "./+types/door-change";

/** Makes a key of the door, which is told this once; or withdraws one. */
export const action = actions({
  make: way(NewKeySchema, async (given, { context: { septima } }: Route.ActionArgs) => ({
    secret: await makeKey(septima, given),
  })),
  withdraw: way(
    z.object({ id: z.string().max(60) }),
    async ({ id }, { context: { septima } }: Route.ActionArgs) => {
      await withdrawKey(septima, id);
      return { secret: null };
    },
  ),
});
