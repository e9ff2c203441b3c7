import { z } from "zod";
import { ThemeSchema } from "~/core/email";
import { takeTheme } from "~/server/campaigns/templates";
import { saveTheme } from "~/server/workspace/themes";
import { actions, way } from "../deeds";
import type { Route } from "./+types/themes";

type Args = Route.ActionArgs;

/** Keeps themes of the workspace's own, and gives them to designs. */
export const action = actions({
  save: way(
    z.object({ theme: ThemeSchema, of: z.string().nullable() }),
    async ({ theme, of }, { context: { septima } }: Args) => ({ theme: await saveTheme(septima, theme, of) }),
  ),
  take: way(
    z.object({ id: z.string(), designs: z.array(z.string()).max(5000) }),
    async ({ id, designs }, { context: { septima } }: Args) => ({
      changed: await takeTheme(septima, id, designs),
    }),
  ),
});
