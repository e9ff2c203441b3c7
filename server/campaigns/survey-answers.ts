import type { Septima } from "../septima";

/** How many readers gave each answer to a campaign's surveys, by block. */
export async function answerCounts(
  septima: Septima,
  campaignId: string,
): Promise<Record<string, { answer: number; count: number }[]>> {
  const rows = await septima.db.query<{ block_id: string; answer: number; count: number }>(
    "select block_id, answer, count(*)::int as count from answers where campaign_id = $1 group by block_id, answer order by answer",
    [campaignId],
  );
  const counts: Record<string, { answer: number; count: number }[]> = {};
  for (const { block_id, answer, count } of rows)
    counts[block_id] = [...(counts[block_id] ?? []), { answer, count }];
  return counts;
}
