import { ProgrammeSchema, saveProgramme } from "~/server/referrals/programme";
import { jsonInput } from "../input";
import { orProblem } from "../refusal";
import type { Route } from "./+types/referrals-change";

/** Changes the referral programme. */
export async function action({ context: { septima }, request }: Route.ActionArgs) {
  const programme = await jsonInput(request, ProgrammeSchema);
  return orProblem(async () => {
    await saveProgramme(septima, programme);
    return programme;
  });
}
