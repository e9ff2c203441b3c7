import { z } from "zod";
import { keepVersion, nameVersion, version, versions } from "~/server/campaigns/versions";
import { jsonInput } from "../input";
import { orNotHere, orProblem } from "../refusal";
import type { Route } from "./+types/campaign-versions";

const Body = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("keep"), name: z.string() }),
  z.object({ intent: z.literal("name"), id: z.string(), name: z.string() }),
]);

/** The versions of a design; with `?version=` the design of one. */
export async function loader({ context, params, request }: Route.LoaderArgs) {
  const id = new URL(request.url).searchParams.get("version");
  return Response.json(
    await orNotHere<unknown>(() =>
      id === null
        ? versions(context.septima, params.campaign)
        : version(context.septima, params.campaign, id),
    ),
  );
}

export async function action({ context, params, request }: Route.ActionArgs) {
  const body = await jsonInput(request, Body);
  return orProblem(async () => {
    if (body.intent === "keep") await keepVersion(context.septima, params.campaign, body.name);
    else await nameVersion(context.septima, params.campaign, body.id, body.name);
    return versions(context.septima, params.campaign);
  });
}
