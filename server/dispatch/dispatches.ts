/** Dispatches: how far each is, and what can be done about it by hand. */
import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { LookupSchema, ReferralStepSchema } from "~/core/email";
import { canMove, type DispatchState, momentWords } from "~/core/sending";
import { SelectionSchema } from "../audience/selection";
import type { Queries } from "../db/database";
import type { Sendable } from "../preflight/circumstances";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { CodesShort, releaseCodes, reserveCodes } from "../sources/codes";
import { frozenOf } from "./frozen";
import { RECIPIENT_STATES, type RecipientState } from "./recipient";

/** One carrying-out of a booking, without its recipients. */
export interface DispatchFacts {
  id: string;
  campaignId: string;
  state: DispatchState;
  scheduledFor: string | null;
  zone: string;
  total: number;
  trouble: string | null;
  startedAt: string | null;
  finishedAt: string | null;
}

/** How many recipients are in each state. */
export type Counts = Record<RecipientState, number>;

/** One carrying-out of a booking. */
export interface Dispatch extends DispatchFacts {
  counts: Counts;
}

interface DispatchRow {
  id: string;
  campaign_id: string;
  state: DispatchState;
  goes_at: Date | null;
  zone: string;
  total: number;
  trouble: string | null;
  started_at: Date | null;
  finished_at: Date | null;
}

/** What was booked: the design as it was then. */
export interface Booked extends Sendable {
  id: string;
  state: DispatchState;
  /** How many readers the sender confirmed, and by how many percent that may have changed; null as usual. */
  confirmed: number;
  tolerance: number | null;
  /** Whether it is one date of a booking that repeats. */
  repeats: boolean;
}

const TagFactsSchema = z.object({
  campaign: z.object({ name: z.string(), series: z.string() }).optional(),
  lookups: z.array(LookupSchema).optional(),
  codes: z
    .array(z.object({ key: z.string(), name: z.string(), example: z.string(), ends: z.string().nullish() }))
    .optional(),
  referrals: z.array(ReferralStepSchema).optional(),
});

/** Counts by state; what is not named is none. */
export const countsOf = (rows: readonly { state: RecipientState; count: number }[]): Counts => {
  const counts = Object.fromEntries(RECIPIENT_STATES.map((state) => [state, 0])) as Counts;
  for (const { state, count } of rows) counts[state] += count;
  return counts;
};

/** The dispatches of a campaign, newest first. */
export async function dispatchesOf(septima: Septima, campaignId: string, most = 20): Promise<Dispatch[]> {
  const all = await dispatchFacts(septima, campaignId, most);
  return Promise.all(
    all.map(async (dispatch) => ({
      ...dispatch,
      counts: countsOf(
        await septima.db.query(
          "select state, count(*) as count from recipients where dispatch_id = $1 group by state",
          [dispatch.id],
        ),
      ),
    })),
  );
}

/** The same without looking at their recipients, which may be many. */
export async function dispatchFacts(
  septima: Septima,
  campaignId: string,
  most: number,
): Promise<DispatchFacts[]> {
  const rows = await septima.db.query<DispatchRow>(
    `select d.id, d.campaign_id, d.state, b.goes_at, b.zone, d.total, d.trouble, d.started_at, d.finished_at
     from dispatches d join bookings b on b.id = d.booking_id
     where d.campaign_id = $1 order by d.created_at desc limit $2`,
    [campaignId, most],
  );
  return rows.map((row) => ({
    id: row.id,
    campaignId: row.campaign_id,
    state: row.state,
    scheduledFor: row.goes_at?.toISOString() ?? null,
    zone: row.zone,
    total: row.total,
    trouble: row.trouble,
    startedAt: row.started_at?.toISOString() ?? null,
    finishedAt: row.finished_at?.toISOString() ?? null,
  }));
}

/** How a dispatch stands; null when it is gone. */
export async function stateOf(db: Queries, id: string): Promise<DispatchState | null> {
  const [row] = await db.query<{ state: DispatchState }>("select state from dispatches where id = $1", [id]);
  return row?.state ?? null;
}

/** What a dispatch was booked with, or null when it is gone. */
export async function bookedDispatch(septima: Septima, id: string): Promise<Booked | null> {
  const [row] = await septima.db.query<{
    id: string;
    campaign_id: string;
    state: DispatchState;
    email: unknown;
    readers: unknown;
    named: unknown;
    confirmed: number;
    tolerance: number | null;
    repeats: boolean;
  }>(
    `select d.id, d.campaign_id, d.state, d.email, d.readers, d.named, b.confirmed, b.tolerance,
       b.rhythm is not null as repeats
     from dispatches d join bookings b on b.id = d.booking_id where d.id = $1`,
    [id],
  );
  if (!row) return null;
  return {
    id: row.id,
    campaignId: row.campaign_id,
    state: row.state,
    email: parseEmail(row.email),
    readers: SelectionSchema.parse(row.readers),
    tags: TagFactsSchema.parse(row.named ?? {}),
    confirmed: row.confirmed,
    tolerance: row.tolerance,
    repeats: row.repeats,
  };
}

/** Moves a dispatch to another state if it may go there from where it is. Says whether it did. */
export async function moveDispatch(
  septima: Septima,
  id: string,
  from: DispatchState,
  to: DispatchState,
  trouble: string | null = null,
): Promise<boolean> {
  if (!canMove(from, to)) return false;
  const at = new Date(septima.now());
  const rows = await septima.db.query(
    `update dispatches set state = $3, trouble = $4,
       started_at = case when $3 = 'gathering' then $5 else started_at end,
       finished_at = case when $3 in ('sent', 'cancelled') then $5 else finished_at end,
       accepted = case when $3 in ('sent', 'cancelled')
         then (select count(*) from recipients r where r.dispatch_id = $1 and r.state = 'accepted') end
     where id = $1 and state = $2 returning id`,
    [id, from, to, trouble, at],
  );
  return rows.length > 0;
}

/**
 * Pauses, resumes or cancels. Whoever is carrying it out hears of it, and ends with the messages that are under way.
 * @throws Refusal when its state does not allow that
 */
export async function steerDispatch(
  septima: Septima,
  id: string,
  to: "paused" | "sending" | "cancelled",
): Promise<void> {
  const [row] = await septima.db.query<{ state: DispatchState; gathered: boolean }>(
    "select state, gathered_at is not null as gathered from dispatches where id = $1",
    [id],
  );
  // Whoever resumes has read how many it would go to now.
  if (to === "sending")
    await septima.db.query(
      `with it as (update dispatches set found = null from (select id, found from dispatches where id = $1) was
         where dispatches.id = was.id returning booking_id, was.found)
       update bookings b set confirmed = coalesce(it.found, b.confirmed) from it where b.id = it.booking_id`,
      [id],
    );
  // One that was paused before its readers were gathered begins with that.
  const next = to === "sending" && row?.gathered === false ? "gathering" : to;
  if (!row || !(await moveDispatch(septima, id, row.state, next))) {
    throw new Refusal(
      `It is ${row?.state ?? "gone"} and cannot be ${to === "sending" ? "resumed" : to} now.`,
      409,
    );
  }
  // What is under way settles itself, and gives back its codes then.
  if (to === "cancelled") await releaseCodes(septima.db, id, true);
}

/** Which recipients are put back in the queue. */
type Again = "unconfirmed" | "failed";

/**
 * Puts recipients whose hand-over could not be confirmed back in the queue: the sender decided to risk a second copy.
 * @throws Refusal while it is going out
 */
export const sendUnconfirmed = (septima: Septima, id: string): Promise<void> =>
  sendAgain(septima, id, "unconfirmed", "all");

/**
 * Puts recipients who were refused back in the queue. Codes they had were given back: they get one again.
 * @param contacts those who are chosen
 * @throws Refusal while it is going out, or when there are too few codes
 */
export const sendFailed = (
  septima: Septima,
  id: string,
  contacts: readonly number[] | "all",
): Promise<void> => sendAgain(septima, id, "failed", contacts);

async function sendAgain(
  septima: Septima,
  id: string,
  which: Again,
  contacts: readonly number[] | "all",
): Promise<void> {
  const frozen = await frozenOf(septima, id);
  const at = new Date(septima.now());
  try {
    await septima.db.transaction(async (tx) => {
      const [row] = await tx.query<{ state: DispatchState; campaign_id: string }>(
        "select state, campaign_id from dispatches where id = $1 for update",
        [id],
      );
      if (row?.state !== "sent" && row?.state !== "paused")
        throw new Refusal("Wait until the sending has ended.", 409);
      const back = await tx.query<{ contact_id: number; edition: number | null }>(
        `update recipients set state = 'pending', attempts = 0, next_try = null
         where dispatch_id = $1 and state = $2 and ($3::int[] is null or contact_id = any ($3))
         returning contact_id, edition`,
        [id, which, contacts === "all" ? null : contacts],
      );
      if (back.length === 0) throw new Refusal("There is nobody to send it to again.", 409);
      const shown = new Map<string, number[]>();
      for (const { contact_id, edition } of back)
        for (const batch of frozen?.program.editions[edition ?? -1]?.codes ?? [])
          shown.set(batch, [...(shown.get(batch) ?? []), contact_id]);
      for (const [batch, readers] of [...shown].sort(([a], [b]) => (a < b ? -1 : 1))) {
        const dispatch = { id, campaignId: row.campaign_id, at };
        const { name, missing } = await reserveCodes(tx, dispatch, batch, readers);
        if (missing > 0) throw new CodesShort(name, missing);
      }
      await tx.query(
        "update dispatches set state = 'sending', trouble = null, finished_at = null where id = $1",
        [id],
      );
    });
  } catch (error) {
    if (error instanceof CodesShort) throw new Refusal(error.message, 409);
    throw error;
  }
}

/** When a dispatch goes, in words. */
export function whenWords(dispatch: { scheduledFor: string | null; zone: string }): string {
  return dispatch.scheduledFor === null
    ? "now"
    : momentWords({ epoch: Date.parse(dispatch.scheduledFor), zone: dispatch.zone });
}
