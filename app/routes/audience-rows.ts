import { z } from "zod";
import { TableQuerySchema, tableRows } from "~/server/audience/table";
import { action as one } from "../deeds";
import type { Route } from "./+types/audience-rows";

const Part = z.object({
  query: TableQuerySchema,
  from: z.number().int().min(0),
  count: z.number().int().min(1).max(500),
});

/** A part of a table of contacts. Asked for with a body, since what is sought may be long. */
export const action = one(Part, ({ query, from, count }, { context: { septima } }: Route.ActionArgs) =>
  tableRows(septima, query, from, count),
);
