import { fieldValues } from "~/server/audience/counting";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/audience-values";

/** The values that contacts have in a field. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const field = new URL(request.url).searchParams.get("field") ?? "";
  return Response.json(await orNotHere(() => fieldValues(septima, field)));
}
