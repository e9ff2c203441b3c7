/** Findings that somebody looked at and let be, with why. */
import type { Told } from "~/core/preflight";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** Why a finding was set aside, and when (ISO 8601). */
export interface Aside {
  reason: string;
  at: string;
}

/** Which findings of a campaign are set aside: asked with a finding, says why; null once its place is another. */
export async function asideIn(
  septima: Septima,
  campaignId: string,
): Promise<(finding: Pick<Told, "id" | "state" | "weight">) => Aside | null> {
  const rows = await septima.db.query<{ finding: string; state: string; reason: string; at: Date }>(
    "select finding, state, reason, at from findings_aside where campaign_id = $1",
    [campaignId],
  );
  const known = new Map(rows.map((row) => [row.finding, row]));
  return ({ id, state, weight }) => {
    const row = known.get(id);
    // What stops a sending is mended, never let be.
    if (!row || row.state !== state || weight === "stops") return null;
    return { reason: row.reason, at: new Date(row.at).toISOString() };
  };
}

/**
 * Sets a finding aside for as long as its place stays as it is.
 * @throws Refusal without a reason
 */
export async function setAside(
  septima: Septima,
  campaignId: string,
  { id, state, reason }: { id: string; state: string; reason: string },
): Promise<void> {
  if (reason.trim() === "") throw new Refusal("Say why it may stay: colleagues see it here.");
  await septima.db.query(
    `insert into findings_aside (campaign_id, finding, state, reason, at) values ($1, $2, $3, $4, $5)
     on conflict (campaign_id, finding) do update set state = excluded.state, reason = excluded.reason, at = excluded.at`,
    [campaignId, id, state, reason.trim(), new Date(septima.now())],
  );
}

/** Takes a finding up again. */
export async function takeUp(septima: Septima, campaignId: string, id: string): Promise<void> {
  await septima.db.query("delete from findings_aside where campaign_id = $1 and finding = $2", [
    campaignId,
    id,
  ]);
}
