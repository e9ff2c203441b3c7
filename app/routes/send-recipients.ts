import { RecipientQuerySchema, recipientsOf } from "~/server/dispatch/recipients";
import { input } from "../input";
import type { Route } from "./+types/send-recipients";

/** The recipients of a sending, some at a time. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const found = await recipientsOf(
    septima,
    params.dispatch,
    input(RecipientQuerySchema, Object.fromEntries(new URL(request.url).searchParams)),
  );
  return { now: septima.now(), ...found };
}
