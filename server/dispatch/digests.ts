/** Bookings that repeat: on each date of a rhythm a dispatch of its own goes out, or it is said why not. */
import { z } from "zod";
import { listAsks, parseEmail, sourcesShown } from "~/core/blocks";
import type { Email } from "~/core/email";
import {
  type DispatchState,
  momentWords,
  nextDates,
  type Rhythm,
  RhythmSchema,
  rhythmWords,
} from "~/core/sending";
import { same } from "~/core/values";
import { audienceContext } from "../audience/groups";
import { SelectionSchema } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { tagFacts } from "../campaigns/tag-facts";
import type { Queries } from "../db/database";
import { findingsOf } from "../preflight/preflight";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { countNew } from "../sources/since";
import { refreshAll } from "../sources/sources";
import { alone, planDispatch, readyToBook } from "./bookings";

export const DigestSchema = z.object({
  rhythm: RhythmSchema,
  /** It goes only where so many items are new since the last one; null whatever there is. */
  least: z.number().int().min(1).max(100).nullable(),
  /** Who is told when it went, or did not. */
  tells: z.array(z.email("Give addresses such as you@organisation.example.")).max(10),
  /** By how many percent the number of readers may change from one date to the next; null as usual. */
  tolerance: z.number().int().nullable(),
});
/** How a campaign repeats. */
export type DigestAsked = z.infer<typeof DigestSchema>;

/** A date that is so late when the program comes to it is left out: nobody waits for last week's news. */
const TOO_LATE = 12 * 3_600_000;

/**
 * Books a campaign again and again. The design is taken over as it is now; the first dispatch is planned when its date comes.
 * @returns the id of the booking
 * @throws Refusal as `bookDispatch`, when no date is to come, or when nothing in it can be new
 */
export async function bookDigest(
  septima: Septima,
  campaignId: string,
  confirmed: number,
  { rhythm, least, tells, tolerance }: DigestAsked,
): Promise<string> {
  const { email, readers, revision } = await readyToBook(septima, campaignId, confirmed);
  const [first] = nextDates(rhythm, septima.now(), 1);
  if (first === undefined)
    throw new Refusal("Its last day is over before its first date. Choose a later one.");
  checkNew(email, least);
  const id = septima.newId();
  await septima.db.transaction(async (tx) => {
    await alone(tx, campaignId, revision);
    await tx.query(
      `insert into bookings (id, campaign_id, readers, zone, confirmed, tolerance, created_at, rhythm, least, tells,
         email, revision, next_at)
       values ($1, $2, $3::jsonb, $4, $5, $6, $7, $8::jsonb, $9, $10, $11::jsonb, $12, $13)`,
      [
        id,
        campaignId,
        JSON.stringify(readers),
        rhythm.zone,
        confirmed,
        tolerance,
        new Date(septima.now()),
        JSON.stringify(rhythm),
        least,
        tells,
        JSON.stringify(email),
        revision,
        new Date(first),
      ],
    );
  });
  return id;
}

/** @throws Refusal when a digest waits for what is new and shows nothing of the kind */
function checkNew(email: Email, least: number | null): void {
  if (least !== null && !listAsks(email).some(({ sinceLast }) => sinceLast))
    throw new Refusal(
      "It is to go only when something is new, but none of its lists asks for that. Switch on “Only what is new since the last one” at a list, or let it go whatever there is.",
    );
}

interface BookingRow {
  id: string;
  campaign_id: string;
  rhythm: unknown;
  least: number | null;
  tells: string[];
  email: unknown;
  readers: unknown;
  revision: number;
  confirmed: number;
  next_at: Date | null;
  ended_at: Date | null;
}

/** A booking that repeats, as it is kept. */
interface Digest extends Omit<BookingRow, "rhythm" | "email" | "readers"> {
  rhythm: Rhythm;
  email: Email;
  readers: ReturnType<typeof SelectionSchema.parse>;
}

const digestFrom = (row: BookingRow): Digest => ({
  ...row,
  rhythm: RhythmSchema.parse(row.rhythm),
  email: parseEmail(row.email),
  readers: SelectionSchema.parse(row.readers),
});

async function digest(db: Queries, id: string, held = false): Promise<Digest> {
  const [row] = await db.query<BookingRow>(
    `select * from bookings where id = $1 and rhythm is not null ${held ? "for update" : ""}`,
    [id],
  );
  if (!row) throw new Refusal("This campaign does not repeat any more.", 404);
  return digestFrom(row);
}

/** How many sendings are left of a number that ends it. */
async function leftOf(db: Queries, { id, rhythm }: Digest): Promise<number> {
  if (rhythm.ends?.by !== "number") return Number.POSITIVE_INFINITY;
  const [{ went }] = await db.query<{ went: number }>(
    "select count(*) as went from occurrences where booking_id = $1 and outcome = 'sent'",
    [id],
  );
  return Math.max(0, rhythm.ends.number - went);
}

/** Plans what is due of all that repeats. */
export async function carryOutDigests(septima: Septima): Promise<void> {
  const due = await septima.db.query<{ id: string }>(
    `select b.id from bookings b join campaigns c on c.id = b.campaign_id
     where b.ended_at is null and b.next_at <= $1 and c.deleted_at is null order by b.next_at, b.id`,
    [new Date(septima.now())],
  );
  for (const { id } of due) await carryOut(septima, id);
}

/**
 * Carries out the next date of a booking, or leaves it out: of several who do so the first counts.
 * @param byHand whether somebody wants it to go now, whatever its time and what is new
 */
async function carryOut(septima: Septima, id: string, byHand = false): Promise<void> {
  const { campaign_id: campaignId, next_at: at, email: usual, least } = await digest(septima.db, id);
  if (at === null) throw new Refusal("There is no date left. It has come to its end.", 409);
  // Somebody else carried out the one that was due.
  if (!byHand && at.getTime() > septima.now()) return;
  const own = await occurrence(septima.db, id, at);
  const email = own?.email ? parseEmail(own.email) : usual;
  // What is new is known only once the sources were asked.
  let fresh = Number.POSITIVE_INFINITY;
  if (least !== null && !byHand) {
    await refreshAll(septima, sourcesShown(email));
    const { today } = await audienceContext(septima);
    fresh = await countNew(septima, listAsks(email), campaignId, today);
  }
  const tags = await tagFacts(septima, campaignId);
  const dispatch = septima.newId();
  const now = septima.now();
  await septima.db.transaction(async (tx) => {
    const booking = await digest(tx, id, true);
    if (booking.ended_at !== null || booking.next_at?.getTime() !== at.getTime()) return;
    const [open] = await tx.query(
      "select 1 from dispatches where booking_id = $1 and state not in ('sent', 'cancelled') limit 1",
      [id],
    );
    const [following] = nextDates(booking.rhythm, at.getTime(), 1);
    const late = now - at.getTime() > TOO_LATE || (following !== undefined && following <= now);
    const why = open
      ? "The one before had not ended."
      : byHand
        ? null
        : own?.skip
          ? "It was skipped by hand."
          : late
            ? "Septima was not running then."
            : fresh < (least ?? 0)
              ? fresh === 0
                ? "Nothing was new."
                : `Only ${fresh} of the ${least} items it waits for ${fresh === 1 ? "was" : "were"} new.`
              : null;
    if (why !== null && byHand) throw new Refusal(`${why} Wait until it has, or cancel it.`, 409);
    if (why === null)
      await planDispatch(tx, {
        id: dispatch,
        booking: id,
        campaignId,
        email,
        readers: booking.readers,
        tags,
        total: booking.confirmed,
        at: new Date(now),
      });
    await tx.query(
      `insert into occurrences (booking_id, at, outcome, why, dispatch_id) values ($1, $2, $3, $4, $5)
       on conflict (booking_id, at) do update set outcome = excluded.outcome, why = excluded.why, dispatch_id = excluded.dispatch_id`,
      [id, at, why === null ? "sent" : "skipped", why, why === null ? dispatch : null],
    );
    const [next] = nextDates(booking.rhythm, at.getTime(), 1, await leftOf(tx, booking));
    await tx.query("update bookings set next_at = $2, ended_at = $3 where id = $1", [
      id,
      next === undefined ? null : new Date(next),
      next === undefined ? new Date(now) : null,
    ]);
  });
}

/** Sends the next date now; the one after it is the next then. @throws Refusal */
export const sendNextNow = (septima: Septima, id: string): Promise<void> => carryOut(septima, id, true);

async function occurrence(db: Queries, id: string, at: Date) {
  const [row] = await db.query<{ skip: boolean; email: unknown; outcome: string | null }>(
    "select skip, email, outcome from occurrences where booking_id = $1 and at = $2",
    [id, at],
  );
  return row ?? null;
}

/** Changes a date that is to come. @throws Refusal when there is no such date, or it is over */
async function changeDate(
  septima: Septima,
  id: string,
  at: string,
  change: { skip?: boolean; email?: Email | null },
): Promise<void> {
  const when = new Date(at);
  await septima.db.transaction(async (tx) => {
    const booking = await digest(tx, id, true);
    const open = booking.ended_at === null && booking.next_at !== null && when >= booking.next_at;
    const [date] = Number.isNaN(when.getTime()) ? [] : nextDates(booking.rhythm, when.getTime() - 1, 1);
    if (!open || date !== when.getTime())
      throw new Refusal("There is no such date to come. Load the page again.", 409);
    const before = await occurrence(tx, id, when);
    const email = change.email === undefined ? before?.email : change.email;
    await tx.query(
      `insert into occurrences (booking_id, at, skip, email) values ($1, $2, $3, $4::jsonb)
       on conflict (booking_id, at) do update set skip = excluded.skip, email = excluded.email`,
      [id, when, change.skip ?? before?.skip ?? false, email ? JSON.stringify(email) : null],
    );
  });
}

/** Leaves a date to come out, or takes that back. @throws Refusal */
export const skipDate = (septima: Septima, id: string, at: string, skip: boolean): Promise<void> =>
  changeDate(septima, id, at, { skip });

/** Lets a date go as the others do again. @throws Refusal */
export const asUsual = (septima: Septima, id: string, at: string): Promise<void> =>
  changeDate(septima, id, at, { email: null });

/**
 * Takes the campaign's design and readers over as they are now: from the next date on, or the design for one date alone.
 * @param at the date; null from the next on
 * @throws Refusal when something stands in the way of sending it
 */
export async function takeDesign(septima: Septima, id: string, at: string | null): Promise<void> {
  const { campaign_id: campaignId, least } = await digest(septima.db, id);
  const { email, readers, revision } = await campaign(septima, campaignId);
  const [obstacle] = (await findingsOf(septima, campaignId)).filter(({ weight }) => weight === "stops");
  if (obstacle) throw new Refusal(obstacle.text);
  checkNew(email, least);
  if (at !== null) return changeDate(septima, id, at, { email });
  await septima.db.query(
    "update bookings set email = $2::jsonb, readers = $3::jsonb, revision = $4 where id = $1 and ended_at is null",
    [id, JSON.stringify(email), JSON.stringify(readers), revision],
  );
}

/** Ends a booking that repeats; what is going out goes on. */
export async function endDigest(septima: Septima, id: string): Promise<void> {
  await septima.db.query(
    "update bookings set ended_at = $2, next_at = null where id = $1 and rhythm is not null and ended_at is null",
    [id, new Date(septima.now())],
  );
}

/** A date that is over. */
export interface DatePast {
  at: string;
  words: string;
  outcome: "sent" | "skipped";
  why: string | null;
  dispatch: {
    id: string;
    state: DispatchState;
    total: number;
    accepted: number | null;
    trouble: string | null;
  } | null;
}

/** A date to come. */
export interface DateToCome {
  at: string;
  words: string;
  skip: boolean;
  /** Whether it has a design of its own. */
  own: boolean;
}

/** How a campaign repeats, what came of it and what is to come. */
export interface DigestShown {
  id: string;
  words: string;
  least: number | null;
  tells: string[];
  ended: string | null;
  toCome: DateToCome[];
  past: DatePast[];
  /** Whether the campaign's design or its readers differ from what it sends. */
  differs: boolean;
  /** How many items are new now; null where nothing asks for that. */
  fresh: number | null;
}

/** So many dates to come, and that are over, are shown. */
const SHOWN = { toCome: 5, past: 12 };

/** How a campaign repeats; null when it never did. */
export async function digestOf(septima: Septima, campaignId: string): Promise<DigestShown | null> {
  const [row] = await septima.db.query<BookingRow>(
    "select * from bookings where campaign_id = $1 and rhythm is not null order by created_at desc limit 1",
    [campaignId],
  );
  if (!row) return null;
  const booking = digestFrom(row);
  const { id, rhythm } = booking;
  const words = (at: Date) => momentWords({ epoch: at.getTime(), zone: rhythm.zone });
  const past = await septima.db.query<{
    at: Date;
    outcome: DatePast["outcome"];
    why: string | null;
    dispatch: DatePast["dispatch"];
  }>(
    `select o.at, o.outcome, o.why, case when d.id is not null then json_build_object('id', d.id, 'state', d.state,
       'total', d.total, 'accepted', d.accepted, 'trouble', d.trouble) end as dispatch
     from occurrences o left join dispatches d on d.id = o.dispatch_id
     where o.booking_id = $1 and o.outcome is not null order by o.at desc limit ${SHOWN.past}`,
    [id],
  );
  const differing = await septima.db.query<{ at: Date; skip: boolean; own: boolean }>(
    "select at, skip, email is not null as own from occurrences where booking_id = $1 and outcome is null",
    [id],
  );
  const dates =
    booking.ended_at !== null || booking.next_at === null
      ? []
      : nextDates(rhythm, booking.next_at.getTime() - 1, SHOWN.toCome, await leftOf(septima.db, booking));
  const now = await campaign(septima, campaignId);
  const asks = listAsks(booking.email);
  return {
    id,
    words: rhythmWords(rhythm),
    least: booking.least,
    tells: booking.tells,
    ended: booking.ended_at && words(booking.ended_at),
    toCome: dates.map((date) => {
      const own = differing.find(({ at }) => at.getTime() === date);
      const at = new Date(date);
      return { at: at.toISOString(), words: words(at), skip: own?.skip ?? false, own: own?.own ?? false };
    }),
    past: past.map((one) => ({ ...one, at: one.at.toISOString(), words: words(one.at) })),
    differs: !same(now.email, booking.email) || !same(now.readers, booking.readers),
    fresh: asks.some(({ sinceLast }) => sinceLast)
      ? await countNew(septima, asks, campaignId, (await audienceContext(septima)).today)
      : null,
  };
}
