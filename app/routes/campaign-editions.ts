import { data } from "react-router";
import { RuleError } from "~/core/audience";
import { parseEmail } from "~/core/blocks";
import { campaign } from "~/server/campaigns/campaigns";
import { editionsOf } from "~/server/campaigns/rendering";
import { jsonInput } from "../input";
import { orNotHere } from "../refusal";
import type { Route } from "./+types/campaign-editions";

/** The editions of a design that may not be saved yet, across the campaign's readers. */
export async function action({ context, params, request }: Route.ActionArgs) {
  const email = await jsonInput(request, { parse: parseEmail });
  const { readers } = await orNotHere(() => campaign(context.septima, params.campaign));
  try {
    return data({ ...(await editionsOf(context.septima, email, readers, params.campaign)), problem: null });
  } catch (error) {
    if (error instanceof RuleError) return data({ editions: [], readers: 0, problem: error.message });
    throw error;
  }
}
