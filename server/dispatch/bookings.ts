/** Bookings: what is sent, to whom, and when. Booking plans the dispatch that carries it out. */
import type { Email, TagFacts } from "~/core/email";
import { momentOf, ScheduleError } from "~/core/sending";
import { countSelection, type Selection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { tagFacts } from "../campaigns/tag-facts";
import type { Queries } from "../db/database";
import { keepMentions } from "../mentions";
import { findingsOf } from "../preflight/preflight";
import { Refusal } from "../refusal";
import { rehearsedId } from "../rehearsal/rehearsed-id";
import type { Septima } from "../septima";
import { moveDispatch } from "./dispatches";
import { gotCounts } from "./repeating";

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
  const ready = await readyToBook(septima, campaignId, booking.confirmed);
  const { email, readers } = ready;
  const moment = momentIn(booking, septima.now());
  const id = (await rehearsedId(septima, campaignId)) ?? septima.newId();
  const tags = await tagFacts(septima, campaignId);
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    await alone(tx, campaignId, ready.revision);
    await tx.query(
      `insert into bookings (id, campaign_id, readers, goes_at, zone, confirmed, tolerance, created_at)
       values ($1, $2, $3::jsonb, $4, $5, $6, $7, $8)`,
      [
        id,
        campaignId,
        JSON.stringify(readers),
        moment && new Date(moment.epoch),
        moment?.zone ?? "UTC",
        booking.confirmed,
        booking.when === null ? null : (booking.tolerance ?? null),
        at,
      ],
    );
    await planDispatch(tx, {
      id,
      booking: id,
      campaignId,
      email,
      readers,
      tags,
      total: booking.confirmed,
      at,
    });
  });
  return id;
}

/**
 * A campaign as it may be booked.
 * @param confirmed the number of readers that whoever books it saw
 * @throws Refusal when something stands in the way, or the number has changed
 */
export async function readyToBook(
  septima: Septima,
  campaignId: string,
  confirmed: number,
): Promise<{ email: Email; readers: Selection; revision: number }> {
  const { kind, email, revision, readers } = await campaign(septima, campaignId);
  if (kind !== "campaign") throw new Refusal("A template is not sent. Start a campaign from it.");
  const count = await countSelection(septima, readers, await gotCounts(septima, campaignId));
  const [obstacle] = (await findingsOf(septima, campaignId)).filter(({ weight }) => weight === "stops");
  if (obstacle) throw new Refusal(obstacle.text);
  if (count.readers !== confirmed) {
    throw new Refusal(
      `The number of readers has changed from ${confirmed} to ${count.readers} since you looked. Look again and confirm; nothing was sent.`,
      409,
    );
  }
  return { email, readers, revision };
}

/**
 * Holds a campaign until the end of the transaction.
 * @throws Refusal when it was changed, goes out, has been sent, or repeats
 */
export async function alone(tx: Queries, campaignId: string, revision: number): Promise<void> {
  const [held] = await tx.query<{ revision: number }>(
    "select revision from campaigns where id = $1 for update",
    [campaignId],
  );
  if (held?.revision !== revision)
    throw new Refusal("The design was changed just now. Look again and confirm; nothing was sent.", 409);
  const [repeating] = await tx.query(
    "select 1 from bookings where campaign_id = $1 and rhythm is not null and ended_at is null",
    [campaignId],
  );
  if (repeating) throw new Refusal("This campaign repeats already. End that first.", 409);
  const [busy] = await tx.query<{ state: string }>(
    `select d.state from dispatches d join bookings b on b.id = d.booking_id
     where d.campaign_id = $1 and (d.state not in ('cancelled', 'sent') or (d.state = 'sent' and b.rhythm is null))
     limit 1`,
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
}

/** Plans one carrying-out of a booking. */
export async function planDispatch(
  tx: Queries,
  planned: {
    id: string;
    booking: string;
    campaignId: string;
    email: Email;
    readers: Selection;
    tags: TagFacts;
    /** How many readers it was booked for. */
    total: number;
    at: Date;
  },
): Promise<void> {
  const { id, booking, campaignId, email, readers, tags, total, at } = planned;
  await tx.query(
    `insert into dispatches (id, booking_id, campaign_id, state, email, readers, total, created_at, named)
     values ($1, $2, $3, 'scheduled', $4::jsonb, $5::jsonb, $6, $7, $8::jsonb)`,
    [
      id,
      booking,
      campaignId,
      JSON.stringify(email),
      JSON.stringify(readers),
      total,
      at,
      JSON.stringify(tags),
    ],
  );
  await keepMentions(tx, "dispatch", id, { email, readers });
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
