import type { Septima } from "../septima";

/**
 * The id that the next dispatch of a campaign has in its rehearsal, so that its messages are the same to the octet; null
 * when it was not rehearsed, or went since.
 */
export async function rehearsedId(septima: Septima, campaignId: string): Promise<string | null> {
  const [row] = await septima.db.query<{ id: string }>(
    `select id from rehearsals r where campaign_id = $1
       and not exists (select 1 from dispatches d where d.id = r.id)`,
    [campaignId],
  );
  return row?.id ?? null;
}
