import { ProgrammeSchema, saveProgramme } from "~/server/referrals/programme";
import { action as one } from "../deeds";
import type { Route } from "./+types/referrals-change";

/** Changes the referral programme. */
export const action = one(ProgrammeSchema, (programme, { context: { septima } }: Route.ActionArgs) =>
  saveProgramme(septima, programme),
);
