import { z } from "zod";
import { ASSIST_TASKS, LetterSchema } from "~/core/assistant";
import { aboutAssistant, askAbout, draftFromBrief, rewriteWords } from "~/server/assistant/assistant";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/assist";

const language = z.string().max(20);
const Body = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("rewrite"),
    text: z.string().max(20_000),
    task: z.enum(ASSIST_TASKS),
    language,
  }),
  z.object({
    intent: z.literal("ask"),
    question: z.string().trim().min(1).max(2000),
    letter: LetterSchema,
    language,
  }),
  z.object({ intent: z.literal("draft"), name: z.string().max(200), brief: z.string().max(8000) }),
]);

/** Who helps with writing here, and whether it only pretends. */
export function loader({ context: { septima }, request }: Route.LoaderArgs) {
  return orProblem(() => aboutAssistant(septima, request.signal));
}

/** Has words rewritten, asks something about a letter, or starts a campaign with a first draft. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const asked = await jsonInput(request, Body);
  const { signal } = request;
  return orProblem<{ text: string } | Awaited<ReturnType<typeof askAbout | typeof draftFromBrief>>>(
    async () => {
      switch (asked.intent) {
        case "rewrite":
          return { text: await rewriteWords(septima, asked, signal) };
        case "ask":
          return askAbout(septima, asked, signal);
        case "draft":
          return draftFromBrief(septima, asked, signal);
      }
    },
  );
}
