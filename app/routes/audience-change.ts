import { changeById } from "~/server/audience/changing";
import { takeBack } from "~/server/audience/taking-back";
import { orNotHere, orProblem } from "../refusal";
import type { Route } from "./+types/audience-change";

/** How far a change to many contacts is. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { plan: _, ...change } = await orNotHere(() => changeById(septima, params.change));
  return Response.json(change, { headers: { "cache-control": "no-store" } });
}

/** Takes it back. */
export async function action({ context: { septima }, params }: Route.ActionArgs) {
  return orProblem(async () => {
    await takeBack(septima, params.change);
    return true;
  });
}
