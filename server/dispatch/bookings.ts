/** Bookings: what is sent, to whom, and when. Booking plans the dispatch that carries it out. */
import { momentOf, ScheduleError } from "~/core/sending";
import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { tagFacts } from "../campaigns/tag-facts";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { moveDispatch } from "./dispatches";
import { findingsOf } from "./findings";

/** What the sender says when they book. */
export interface Booking {
  /** The number of readers they saw and confirmed. */
  confirmed: number;
  /** Null is now. */
  when: null | { date: string; time: string; zone: string };
  /** By how many percent the number may have changed when a later moment has come, where that is not as usual. */
  tolerance?: number | null;
}

/**
 * Books a campaign, now or at a moment, and plans its dispatch. The design is frozen as it is now.
 * @returns the id of the dispatch
 * @throws Refusal when something stands in the way, the number has changed, or it is going out already
 */
export async function bookDispatch(septima: Septima, campaignId: string, booking: Booking): Promise<string> {
  const { kind, email, revision, readers } = await campaign(septima, campaignId);
  if (kind !== "campaign") throw new Refusal("A template is not sent. Start a campaign from it.");
  const count = await countSelection(septima, readers, campaignId);
  const [obstacle] = (await findingsOf(septima, campaignId)).filter(({ weight }) => weight === "stops");
  if (obstacle) throw new Refusal(obstacle.text);
  if (count.readers !== booking.confirmed) {
    throw new Refusal(
      `The number of readers has changed from ${booking.confirmed} to ${count.readers} since you looked. Look again and confirm; nothing was sent.`,
      409,
    );
  }
  const moment = momentIn(booking, septima.now());
  const id = septima.newId();
  const tags = await tagFacts(septima, campaignId);
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    const [held] = await tx.query<{ revision: number }>(
      "select revision from campaigns where id = $1 for update",
      [campaignId],
    );
    if (held?.revision !== revision)
      throw new Refusal("The design was changed just now. Look again and confirm; nothing was sent.", 409);
    const [busy] = await tx.query<{ state: string }>(
      "select state from dispatches where campaign_id = $1 and state <> 'cancelled' limit 1",
      [campaignId],
    );
    if (busy) {
      throw new Refusal(
        busy.state === "sent"
          ? "This campaign has been sent. Copy it to send something like it again."
          : "This campaign is going out already.",
        409,
      );
    }
    await tx.query(
      `insert into bookings (id, campaign_id, readers, goes_at, zone, confirmed, tolerance, created_at)
       values ($1, $2, $3::jsonb, $4, $5, $6, $7, $8)`,
      [
        id,
        campaignId,
        JSON.stringify(readers),
        moment && new Date(moment.epoch),
        moment?.zone ?? "UTC",
        count.readers,
        booking.when === null ? null : (booking.tolerance ?? null),
        at,
      ],
    );
    await tx.query(
      `insert into dispatches (id, booking_id, campaign_id, state, email, readers, total, created_at, named)
       values ($1, $1, $2, 'scheduled', $3::jsonb, $4::jsonb, $5, $6, $7::jsonb)`,
      [
        id,
        campaignId,
        JSON.stringify(email),
        JSON.stringify(readers),
        count.readers,
        at,
        JSON.stringify(tags),
      ],
    );
    await keepMentions(tx, "dispatch", id, { email, readers });
  });
  return id;
}

/** When a booking goes; null at once. @throws Refusal */
function momentIn({ when }: Booking, now: number) {
  if (when === null) return null;
  try {
    return momentOf(when.date, when.time, when.zone, now);
  } catch (error) {
    if (error instanceof ScheduleError) throw new Refusal(error.message);
    throw error;
  }
}

/**
 * Takes a dispatch back that waits for its time, so that its design can be changed.
 * @throws Refusal when it has begun
 */
export async function takeBack(septima: Septima, id: string): Promise<void> {
  if (!(await moveDispatch(septima, id, "scheduled", "cancelled")))
    throw new Refusal(
      "It has begun to go out, so it cannot be taken back. Pause or cancel it on the sheet.",
      409,
    );
}
