import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { LookupSchema, ReferralStepSchema } from "~/core/email";
import { canMove, type DispatchState, momentOf, momentWords, ScheduleError } from "~/core/sending";
import { ArticleSchema, type LiveContent } from "~/core/sources";
import { countSelection, SelectionSchema } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { tagFacts } from "../campaigns/tag-facts";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { releaseCodes } from "../sources/codes";
import { findingsOf, type Sendable } from "./findings";
import { RECIPIENT_STATES, type RecipientState } from "./recipient";
import { settleInterrupted } from "./settling";

/** One sending of one campaign. */
export interface Dispatch {
  id: string;
  campaignId: string;
  state: DispatchState;
  scheduledFor: string | null;
  zone: string;
  total: number;
  trouble: string | null;
  startedAt: string | null;
  finishedAt: string | null;
  /** How many recipients are in each state. */
  counts: Record<RecipientState, number>;
}

interface DispatchRow {
  id: string;
  campaign_id: string;
  state: DispatchState;
  scheduled_for: Date | null;
  zone: string;
  email: unknown;
  readers: unknown;
  content: unknown;
  named: unknown;
  total: number;
  confirmed: number | null;
  tolerance: number | null;
  trouble: string | null;
  started_at: Date | null;
  finished_at: Date | null;
}

/** Under which the cache says that a dispatch was paused or cancelled in this process. */
export const haltKey = (id: string) => `halt ${id}`;

const RUNNING = "running ";
/** Under which the cache says that this process is carrying a dispatch out. */
export const runningKey = (id: string) => RUNNING + id;
/** How many dispatches this process is carrying out. */
export const runningCount = ({ cache }: Septima) =>
  [...cache.keys()].filter((key) => key.startsWith(RUNNING)).length;

/** The name of the job that carries a dispatch out. */
export const DISPATCH_JOB = "dispatch";

/** What a dispatch sends: the design and content frozen when it was booked and gathered. */
export interface Frozen extends Sendable {
  id: string;
  state: DispatchState;
  content: LiveContent | null;
  /** How many readers the sender confirmed, and by how many percent that may have changed; null as usual. */
  confirmed: number;
  tolerance: number | null;
}

const TagFactsSchema = z.object({
  campaign: z.object({ name: z.string(), series: z.string() }).optional(),
  lookups: z.array(LookupSchema).optional(),
  codes: z
    .array(z.object({ key: z.string(), name: z.string(), example: z.string(), ends: z.string().nullish() }))
    .optional(),
  referrals: z.array(ReferralStepSchema).optional(),
});

async function counts(septima: Septima, id: string): Promise<Record<RecipientState, number>> {
  const result = Object.fromEntries(RECIPIENT_STATES.map((state) => [state, 0])) as Record<
    RecipientState,
    number
  >;
  const rows = await septima.db.query<{ state: RecipientState; count: number }>(
    "select state, count(*) as count from recipients where dispatch_id = $1 group by state",
    [id],
  );
  for (const row of rows) result[row.state] = row.count;
  return result;
}

/** The dispatches of a campaign, newest first. */
export async function dispatchesOf(septima: Septima, campaignId: string, most = 20): Promise<Dispatch[]> {
  const rows = await septima.db.query<DispatchRow>(
    `select id, campaign_id, state, scheduled_for, zone, total, trouble, started_at, finished_at
     from dispatches where campaign_id = $1 order by created_at desc limit $2`,
    [campaignId, most],
  );
  return Promise.all(
    rows.map(async (row) => ({
      id: row.id,
      campaignId: row.campaign_id,
      state: row.state,
      scheduledFor: row.scheduled_for?.toISOString() ?? null,
      zone: row.zone,
      total: row.total,
      trouble: row.trouble,
      startedAt: row.started_at?.toISOString() ?? null,
      finishedAt: row.finished_at?.toISOString() ?? null,
      counts: await counts(septima, row.id),
    })),
  );
}

/** The dispatch as the job needs it, or null when it is gone. */
export async function frozenDispatch(septima: Septima, id: string): Promise<Frozen | null> {
  const [row] = await septima.db.query<DispatchRow>("select * from dispatches where id = $1", [id]);
  if (!row) return null;
  const content =
    row.content === null
      ? null
      : new Map(Object.entries(z.record(z.string(), z.array(ArticleSchema)).parse(row.content)));
  return {
    id: row.id,
    campaignId: row.campaign_id,
    state: row.state,
    email: parseEmail(row.email),
    readers: SelectionSchema.parse(row.readers),
    content,
    tags: TagFactsSchema.parse(row.named ?? {}),
    confirmed: row.confirmed ?? row.total,
    tolerance: row.tolerance,
  };
}

/**
 * Books a dispatch, now or at a moment. The design is frozen as it is now.
 * @param booking with the number of readers the sender saw and confirmed; by how many percent it may have changed when a
 *   later moment has come, where that is not as usual
 * @throws Refusal when something stands in the way, the number has changed, or it is going out already
 */
export async function bookDispatch(
  septima: Septima,
  campaignId: string,
  booking: {
    confirmed: number;
    when: null | { date: string; time: string; zone: string };
    tolerance?: number | null;
  },
): Promise<string> {
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
  let moment: { epoch: number; zone: string } | null = null;
  if (booking.when) {
    try {
      moment = momentOf(booking.when.date, booking.when.time, booking.when.zone, septima.now());
    } catch (error) {
      if (error instanceof ScheduleError) throw new Refusal(error.message);
      throw error;
    }
  }
  const id = septima.newId();
  const tags = await tagFacts(septima, campaignId);
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
      `insert into dispatches
         (id, campaign_id, state, scheduled_for, zone, email, readers, total, confirmed, created_at, named, tolerance)
       values ($1, $2, 'scheduled', $3, $4, $5::jsonb, $6::jsonb, $7, $7, $8, $9::jsonb, $10)`,
      [
        id,
        campaignId,
        moment ? new Date(moment.epoch) : null,
        moment?.zone ?? "UTC",
        JSON.stringify(email),
        JSON.stringify(readers),
        count.readers,
        new Date(septima.now()),
        JSON.stringify(tags),
        booking.when === null ? null : (booking.tolerance ?? null),
      ],
    );
    await keepMentions(tx, "dispatch", id, { email, readers });
  });
  await septima.jobs.ask(DISPATCH_JOB, { id }, moment?.epoch);
  return id;
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
 * Pauses, resumes or cancels.
 * @throws Refusal when its state does not allow that
 */
export async function steerDispatch(
  septima: Septima,
  id: string,
  to: "paused" | "sending" | "cancelled",
): Promise<void> {
  const [row] = await septima.db.query<{ state: DispatchState; gathered: boolean }>(
    "select state, content is not null as gathered from dispatches where id = $1",
    [id],
  );
  // Whoever resumes has read how many it would go to now.
  if (to === "sending")
    await septima.db.query(
      "update dispatches set confirmed = coalesce(found, confirmed), found = null where id = $1",
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
  // Whoever is handing over in this process ends with the messages that are under way.
  if (to === "sending") septima.cache.delete(haltKey(id));
  else septima.cache.set(haltKey(id), true);
  if (to === "sending") await septima.jobs.ask(DISPATCH_JOB, { id });
  // What is under way settles itself; what a process left that is gone does not.
  if (to === "cancelled" && !septima.cache.has(runningKey(id))) {
    await settleInterrupted(septima, id);
    await releaseCodes(septima.db, id, true);
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

/** Puts recipients whose hand-over could not be confirmed back in the queue: the sender decided to risk a second copy. */
export async function sendUnconfirmed(septima: Septima, id: string): Promise<void> {
  const [row] = await septima.db.query<{ state: DispatchState }>(
    "select state from dispatches where id = $1",
    [id],
  );
  if (row?.state !== "sent" && row?.state !== "paused")
    throw new Refusal("Wait until the sending has ended.", 409);
  await septima.db.query(
    "update recipients set state = 'pending' where dispatch_id = $1 and state = 'unconfirmed'",
    [id],
  );
  await septima.db.query("update dispatches set state = 'sending', finished_at = null where id = $1", [id]);
  septima.cache.delete(haltKey(id));
  await septima.jobs.ask(DISPATCH_JOB, { id });
}

/** When a dispatch goes, in words. */
export function whenWords(dispatch: { scheduledFor: string | null; zone: string }): string {
  return dispatch.scheduledFor === null
    ? "now"
    : momentWords({ epoch: Date.parse(dispatch.scheduledFor), zone: dispatch.zone });
}
