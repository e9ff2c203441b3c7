import { type DispatchState, momentWords } from "~/core/sending";
import type { Queries } from "../db/database";

/** Why a design is not changed any more: what was ordered with it. */
export interface Lock {
  state: Exclude<DispatchState, "cancelled">;
  /** The dispatch, to take it back while it waits. */
  dispatch: string;
  /** When it goes or went, in words; null when it is at once. */
  when: string | null;
}

/** What holds a campaign's design; null while it may be changed. */
export async function lockOf(db: Queries, campaignId: string): Promise<Lock | null> {
  const [row] = await db.query<{
    id: string;
    state: Lock["state"];
    scheduled_for: Date | null;
    zone: string;
    finished_at: Date | null;
  }>(
    `select id, state, scheduled_for, zone, finished_at from dispatches
     where campaign_id = $1 and state <> 'cancelled' order by created_at desc limit 1`,
    [campaignId],
  );
  if (!row) return null;
  const moment = row.state === "sent" ? row.finished_at : row.scheduled_for;
  return {
    state: row.state,
    dispatch: row.id,
    when: moment && momentWords({ epoch: moment.getTime(), zone: row.zone }),
  };
}

/** The same as a sentence that says what can be done. */
export function lockWords({ state, when }: Lock): string {
  switch (state) {
    case "scheduled":
      return `This design is scheduled${when ? ` for ${when}` : ""}. Take it back to change it, or make a copy.`;
    case "sent":
      return `This design was sent${when ? ` on ${when}` : ""}. What readers got stays as it is; make a copy to go on from it.`;
    default:
      return "This design is going out now. What readers get stays as it is; make a copy to go on from it.";
  }
}
