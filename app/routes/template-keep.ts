import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { keepAsTemplate, templateFacts } from "~/server/campaigns/templates";
import { input, jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/template-keep";

const Body = z.object({
  campaign: z.string(),
  name: z.string(),
  about: z.string(),
  purpose: z.string(),
  season: z.string(),
  labels: z.string().default(""),
  email: z.unknown(),
});

/** Keeps a design, as it stands in the composer, as a template. */
export async function action({ context, request }: Route.ActionArgs) {
  const { campaign, email, ...facts } = await jsonInput(request, Body);
  const design = input({ parse: parseEmail }, email);
  return orProblem(async () => ({
    id: await keepAsTemplate(context.septima, campaign, templateFacts(facts), design),
  }));
}
