import { z } from "zod";
import { addBatch, addCodes, CodeBatchSchema, changeBatch, putAwayBatch } from "~/server/sources/codes";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/codes-change";

/** So many signs a file of codes has at most: about a million codes. */
const LONGEST = 20_000_000;
const text = z.string().max(LONGEST, "This file is larger than 20 MB. Bring it in as several.");

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("add"), batch: CodeBatchSchema, text }),
  z.object({ intent: z.literal("more"), key: z.string(), text }),
  z.object({ intent: z.literal("change"), batch: CodeBatchSchema }),
  z.object({ intent: z.literal("put-away"), key: z.string(), away: z.boolean() }),
]);

/** Makes batches of codes and changes them. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "add":
        return addBatch(septima, body.batch, body.text);
      case "more":
        return addCodes(septima, body.key, body.text);
      case "change":
        await changeBatch(septima, body.batch);
        return null;
      case "put-away":
        await putAwayBatch(septima, body.key, body.away);
        return null;
    }
  });
}
