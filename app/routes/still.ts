import { stillOf } from "~/server/workspace/stills";
import { formInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/still";

/** Takes the still of a film from the address of its page. */
export async function action({ context, request }: Route.ActionArgs) {
  const address = String((await formInput(request)).get("address") ?? "");
  return orProblem(() => stillOf(context.septima, address));
}
