import { z } from "zod";
import { bulk, DoingSchema } from "~/server/audience/bulk";
import { PickSchema } from "~/server/audience/table";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/audience-bulk";

const Body = z.object({ pick: PickSchema, doing: DoingSchema });

/** Begins a change to many contacts; how far it is, `audience/changes/…` says. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { pick, doing } = await jsonInput(request, Body);
  return orProblem(async () => ({ id: (await bulk(septima, pick, doing)).id }));
}
