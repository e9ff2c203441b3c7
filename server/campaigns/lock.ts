import { type DispatchState, momentWords } from "~/core/sending";
import type { Queries } from "../db/database";

/** Why a design is not changed any more: what was booked with it. */
export interface Lock {
  state: Exclude<DispatchState, "cancelled">;
  /** The dispatch, to take it back while it waits. */
  dispatch: string;
  /** When it goes or went, in words; null when it is at once. */
  when: string | null;
}

/** What was booked of a campaign, as the database tells it. */
export type Booked = Pick<Lock, "state" | "dispatch"> & { epoch: number | null; zone: string };

/** In a statement, `Booked` of the campaign `c`; null where nothing is, and of what repeats: each date has a design of its own. */
export const BOOKED = `(select json_build_object('state', d.state, 'dispatch', d.id, 'zone', b.zone,
    'epoch', extract(epoch from case when d.state = 'sent' then d.finished_at else b.goes_at end) * 1000)
  from dispatches d join bookings b on b.id = d.booking_id
  where d.campaign_id = c.id and d.state <> 'cancelled' and b.rhythm is null order by d.created_at desc limit 1)`;

/** What holds a design that this was booked with. */
export function lockFrom(booked: Booked | null): Lock | null {
  if (!booked) return null;
  const { state, dispatch, epoch, zone } = booked;
  return { state, dispatch, when: epoch === null ? null : momentWords({ epoch, zone }) };
}

/** What holds a campaign's design; null while it may be changed. */
export async function lockOf(db: Queries, campaignId: string): Promise<Lock | null> {
  const [row] = await db.query<{ booked: Booked | null }>(
    `select ${BOOKED} as booked from campaigns c where id = $1`,
    [campaignId],
  );
  return lockFrom(row?.booked ?? null);
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
