import { editionReaders } from "~/server/campaigns/editions";
import { orProblem } from "../refusal";
import type { Route } from "./+types/edition-readers";

/** The first readers of an edition. */
export async function loader({ context: { septima }, params, request }: Route.LoaderArgs) {
  const key = new URL(request.url).searchParams.get("edition") ?? "";
  return orProblem(() => editionReaders(septima, params.campaign, key));
}
