import { z } from "zod";
import { keepVersion, nameVersion, versions } from "~/server/campaigns/versions";
import { actions, way } from "../deeds";
import type { Route } from "./+types/campaign-versions";

type Args = Route.ActionArgs;

/** The versions of a design. */
export function loader({ context, params }: Route.LoaderArgs) {
  return versions(context.septima, params.campaign);
}

/** Keeps the design as it is now under a name, or gives a version another; gives all of them. */
export const action = actions({
  keep: way(z.object({ name: z.string() }), async ({ name }, { context, params }: Args) => {
    await keepVersion(context.septima, params.campaign, name);
    return versions(context.septima, params.campaign);
  }),
  name: way(
    z.object({ id: z.string(), name: z.string() }),
    async ({ id, name }, { context, params }: Args) => {
      await nameVersion(context.septima, params.campaign, id, name);
      return versions(context.septima, params.campaign);
    },
  ),
});
