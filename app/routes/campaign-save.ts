import { data } from "react-router";
import { z } from "zod";
import { saveEmail } from "~/server/campaigns/campaigns";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-save";

const Body = z.object({ revision: z.number().int(), email: z.unknown() });

export async function action({ context, params, request }: Route.ActionArgs) {
  const { revision, email } = Body.parse(await request.json());
  const result = await orNotHere(() => saveEmail(context.septima, params.campaign, revision, email));
  return data(result, { status: result.saved ? 200 : 409 });
}
