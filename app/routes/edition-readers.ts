import { editionReaders } from "~/server/campaigns/editions";
import type { Route } from "./+types/edition-readers";

/** The first readers of an edition. */
export function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  return editionReaders(septima, params.campaign, new URL(request.url).searchParams.get("edition") ?? "");
}
