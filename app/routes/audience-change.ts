import { z } from "zod";
import { changeById } from "~/server/audience/changing";
import { takeBack } from "~/server/audience/taking-back";
import { action as one } from "../deeds";
import type { Route } from "./+types/audience-change";

/** How far a change to many contacts is. */
export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { plan: _, ...change } = await changeById(septima, params.change);
  return change;
}

/** Takes it back. */
export const action = one(z.object({}), (_, { context: { septima }, params }: Route.ActionArgs) =>
  takeBack(septima, params.change),
);
