/** Whether a campaign goes again and again. */
import type { Septima } from "../septima";

/** Whose copies count as theirs where a campaign is sent: of one that repeats, each date is for all. */
export async function gotCounts(septima: Septima, campaignId: string): Promise<string | null> {
  const [repeats] = await septima.db.query(
    "select 1 from bookings where campaign_id = $1 and rhythm is not null limit 1",
    [campaignId],
  );
  return repeats ? null : campaignId;
}
