import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { keepAsTemplate, templateFacts } from "~/server/campaigns/templates";
import { action as one } from "../deeds";
import { input } from "../input";
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
export const action = one(Body, async ({ campaign, email, ...facts }, { context }: Route.ActionArgs) => {
  const design = input({ parse: parseEmail }, email);
  return { id: await keepAsTemplate(context.septima, campaign, templateFacts(facts), design) };
});
