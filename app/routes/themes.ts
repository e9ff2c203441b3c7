import { z } from "zod";
import { ThemeSchema } from "~/core/email";
import { takeTheme } from "~/server/campaigns/templates";
import { ownThemes, saveTheme, setThemeRemoved, themeUses } from "~/server/workspace/themes";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/themes";

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("save"), theme: ThemeSchema, of: z.string().nullable() }),
  z.object({ intent: z.literal("remove"), id: z.string() }),
  z.object({ intent: z.literal("restore"), id: z.string() }),
  z.object({ intent: z.literal("take"), id: z.string(), designs: z.array(z.string()).max(5000) }),
]);

/** The themes of the workspace's own; with `?uses=` where one is used. */
export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const of = new URL(request.url).searchParams.get("uses");
  return Response.json(of === null ? await ownThemes(septima) : await themeUses(septima, of));
}

export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    switch (body.intent) {
      case "save":
        return { theme: await saveTheme(septima, body.theme, body.of) };
      case "take":
        return { changed: await takeTheme(septima, body.id, body.designs) };
      default:
        await setThemeRemoved(septima, body.id, body.intent === "remove");
        return {};
    }
  });
}
