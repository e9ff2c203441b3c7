import type { TagFacts } from "~/core/email";
import { referralFacts } from "../referrals/programme";
import type { Septima } from "../septima";
import { codeFacts } from "../sources/codes";
import { lookupsOf } from "../workspace/lookups";

/** What the tags of a design may ask besides the brand and the reader; of its campaign, where it is one's. */
export async function tagFacts(septima: Septima, campaignId?: string): Promise<TagFacts> {
  const [lookups, codes, referrals, rows] = await Promise.all([
    lookupsOf(septima),
    codeFacts(septima),
    referralFacts(septima),
    campaignId === undefined
      ? []
      : septima.db.query<{ name: string; series: string }>(
          "select name, series from campaigns where id = $1",
          [campaignId],
        ),
  ]);
  return { lookups, codes, ...referrals, ...(rows[0] && { campaign: rows[0] }) };
}
