import { z } from "zod";
import { ASSIST_TASKS, LetterSchema } from "~/core/assistant";
import { aboutAssistant, askAbout, draftFromBrief, rewriteWords } from "~/server/assistant/assistant";
import { actions, way } from "../deeds";
import type { Route } from "./+types/assist";

type Args = Route.ActionArgs;
const language = z.string().max(20);

/** Who helps with writing here, and whether it only pretends. */
export function loader({ context: { septima }, request }: Route.LoaderArgs) {
  return aboutAssistant(septima, request.signal);
}

/** Has words rewritten, asks something about a letter, or starts a campaign with a first draft. */
export const action = actions({
  rewrite: way(
    z.object({ text: z.string().max(20_000), task: z.enum(ASSIST_TASKS), language }),
    async (asked, { context: { septima }, request }: Args) => ({
      text: await rewriteWords(septima, asked, request.signal),
    }),
  ),
  ask: way(
    z.object({ question: z.string().trim().min(1).max(2000), letter: LetterSchema, language }),
    (asked, { context: { septima }, request }: Args) => askAbout(septima, asked, request.signal),
  ),
  draft: way(
    z.object({ name: z.string().max(200), brief: z.string().max(8000) }),
    (asked, { context: { septima }, request }: Args) => draftFromBrief(septima, asked, request.signal),
  ),
});
