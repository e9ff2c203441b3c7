import { z } from "zod";
import { itemsNow } from "~/server/sources/items";
import { input } from "../input";
import type { Route } from "./+types/source-items-now";

const Query = z.object({
  of: z
    .string()
    .max(50_000)
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue({ code: "custom", message: "it is not JSON" });
        return z.NEVER;
      }
    })
    .pipe(z.array(z.tuple([z.string().max(60), z.string().max(1000)])).max(100)),
});

/** Items that were placed, as their sources have them now; null for what is gone. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const { of } = input(Query, Object.fromEntries(new URL(request.url).searchParams));
  return { items: await itemsNow(septima, of) };
}
