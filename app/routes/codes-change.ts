import { z } from "zod";
import { addBatch, addCodes, CodeBatchSchema, changeBatch, putAwayBatch } from "~/server/sources/codes";
import { actions, way } from "../deeds";
import type { Route } from "./+types/codes-change";

/** So many signs a file of codes has at most: about a million codes. */
const LONGEST = 20_000_000;
const text = z.string().max(LONGEST, "This file is larger than 20 MB. Bring it in as several.");

type Args = Route.ActionArgs;

/** Makes batches of codes and changes them. */
export const action = actions({
  add: way(z.object({ batch: CodeBatchSchema, text }), ({ batch, text }, { context: { septima } }: Args) =>
    addBatch(septima, batch, text),
  ),
  more: way(z.object({ key: z.string(), text }), ({ key, text }, { context: { septima } }: Args) =>
    addCodes(septima, key, text),
  ),
  change: way(z.object({ batch: CodeBatchSchema }), ({ batch }, { context: { septima } }: Args) =>
    changeBatch(septima, batch),
  ),
  "put-away": way(
    z.object({ key: z.string(), away: z.boolean() }),
    ({ key, away }, { context: { septima } }: Args) => putAwayBatch(septima, key, away),
  ),
});
