import { compareReaders } from "~/server/campaigns/editions";
import type { Route } from "./+types/editions-compared";

/** What two readers get that is not the same. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const pair: [number, number] = [Number(searchParams.get("one")), Number(searchParams.get("other"))];
  return compareReaders(septima, params.campaign, pair);
}
