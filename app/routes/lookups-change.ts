import { z } from "zod";
import { LookupSchema } from "~/core/email";
import { removeLookup, saveLookup } from "~/server/workspace/lookups";
import { actions, way } from "../deeds";
import type { Route } from "./+types/lookups-change";

type Args = Route.ActionArgs;

/** Changes lookups. */
export const action = actions({
  save: way(
    z.object({ lookup: LookupSchema, revision: z.number().nullable() }),
    ({ lookup, revision }, { context: { septima } }: Args) => saveLookup(septima, lookup, revision),
  ),
  remove: way(z.object({ key: z.string() }), ({ key }, { context: { septima } }: Args) =>
    removeLookup(septima, key),
  ),
});
