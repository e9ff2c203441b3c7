import { fieldValues } from "~/server/audience/counting";
import type { Route } from "./+types/audience-values";

/** The values that contacts have in a field. */
export function loader({ context: { septima }, request }: Route.LoaderArgs) {
  return fieldValues(septima, new URL(request.url).searchParams.get("field") ?? "");
}
