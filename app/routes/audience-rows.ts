import { z } from "zod";
import { TableQuerySchema, tableRows } from "~/server/audience/table";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/audience-rows";

const Body = z.object({
  query: TableQuerySchema,
  from: z.number().int().min(0),
  count: z.number().int().min(1).max(500),
});

/** A part of a table of contacts. Asked for with a body, since what is sought may be long. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const { query, from, count } = await jsonInput(request, Body);
  return orProblem(() => tableRows(septima, query, from, count));
}
