import { z } from "zod";
import { categoriesOf, findItems, ItemQuerySchema } from "~/server/sources/items";
import { input } from "../input";
import type { Route } from "./+types/source-items";

const Query = z.object({
  ...ItemQuerySchema.shape,
  from: z.coerce.number().nonnegative().optional(),
  to: z.coerce.number().nonnegative().optional(),
  inStock: z.literal("yes").optional(),
  films: z.literal("yes").optional(),
  offset: z.coerce.number().int().nonnegative().default(0),
  limit: z.coerce.number().int().min(1).max(100).default(40),
});

/** Items of a source, or of all, as they are sought; with the first of them the categories there are. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const { inStock, films, ...query } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  const [found, categories] = await Promise.all([
    findItems(septima, { ...query, inStock: inStock !== undefined, films: films !== undefined }),
    query.offset === 0 ? categoriesOf(septima, query.source) : [],
  ]);
  return { ...found, categories };
}
