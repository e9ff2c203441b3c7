import { z } from "zod";
import { REMOVABLE, setRemoved, usesOfRemovable } from "~/server/workspace/removals";
import { action as one } from "../deeds";
import { input } from "../input";
import type { Route } from "./+types/removals";

const Kind = z.enum(REMOVABLE);

/** What uses it. */
export function loader({ context, params }: Route.LoaderArgs) {
  return usesOfRemovable(context.septima, input(Kind, params.kind), params.id);
}

/** Removes it, or brings it back. */
export const action = one(
  z.object({ removed: z.boolean() }),
  ({ removed }, { context, params }: Route.ActionArgs) =>
    setRemoved(context.septima, input(Kind, params.kind), params.id, removed),
);
