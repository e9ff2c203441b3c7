import { z } from "zod";
import { itemValues } from "~/server/sources/items";
import { input } from "../input";
import type { Route } from "./+types/source-values";

const Query = z.object({ source: z.string().max(60), field: z.string().max(80) });

/** What the items of a source have in one of their facts, the commonest first. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const { source, field } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return itemValues(septima, source, field);
}
