import { z } from "zod";
import { LookupSchema } from "~/core/email";
import { removeLookup, saveLookup } from "~/server/workspace/lookups";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/lookups-change";

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("save"), lookup: LookupSchema, revision: z.number().nullable() }),
  z.object({ intent: z.literal("remove"), key: z.string() }),
]);

/** Changes lookups. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "save") await saveLookup(septima, body.lookup, body.revision);
    else return removeLookup(septima, body.key);
    return body.lookup;
  });
}
