import { z } from "zod";
import { setRemoved, usesOfRemovable } from "~/server/workspace/removals";
import { input, jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/removals";

const Kind = z.enum(["source", "segment", "list", "picture"]);
const Body = z.object({ removed: z.boolean() });

/** What uses it. */
export async function loader({ context, params }: Route.LoaderArgs) {
  return usesOfRemovable(context.septima, input(Kind, params.kind), params.id);
}

/** Removes it, or brings it back. */
export async function action({ context, params, request }: Route.ActionArgs) {
  const { removed } = await jsonInput(request, Body);
  return orProblem(() => setRemoved(context.septima, input(Kind, params.kind), params.id, removed));
}
