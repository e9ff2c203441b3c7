import { z } from "zod";
import { ASSIST_TASKS } from "~/core/writing";
import { jsonInput } from "../input";
import type { Route } from "./+types/assist";

const Body = z.object({
  text: z.string().max(20_000),
  task: z.enum(ASSIST_TASKS),
  language: z.string().max(20),
});

/** Who helps with writing here, and whether it only pretends. */
export function loader({ context }: Route.LoaderArgs) {
  const { name, simulated } = context.septima.assistant;
  return Response.json({ name, simulated });
}

export async function action({ context, request }: Route.ActionArgs) {
  const { text, task, language } = await jsonInput(request, Body);
  return Response.json({ text: await context.septima.assistant.rewrite(text, task, language) });
}
