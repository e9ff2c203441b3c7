import { asksHistory, type Contact, contactName } from "~/core/audience";
import { MessageFactory } from "~/core/mime";
import { batchOf, isCode, readerOf } from "~/core/personal";
import { CONTACT_COLUMNS, whole } from "../audience/contacts";
import { audienceContext } from "../audience/groups";
import { boundEmail, sharedHeaders } from "../campaigns/rendering";
import { RelayError } from "../mail/relay";
import type { Septima } from "../septima";
import { codesOf, releaseCodes } from "../sources/codes";
import { readerAddresses } from "../tokens";
import { brandOf } from "../workspace/settings";
import { DISPATCH_JOB, type Frozen, frozenDispatch, haltKey, moveDispatch, runningKey } from "./dispatches";
import { gather } from "./gather";
import { type Outcome, settle, settleAbandoned, settleInterrupted } from "./settling";

const BATCH = 240;
/** So many dispatches are carried out side by side: a slow one holds no other up. */
const AT_ONCE = 6;
/** How long a reader waits after each passing trouble, in milliseconds; after the last there is no more try. */
const WAITS = [5, 20, 60, 240].map((minutes) => minutes * 60_000);

interface Claimed extends Contact {
  message_id: string;
  attempts: number;
}

/**
 * Carries a dispatch out from wherever it stands to its end, or until it is paused. May be run again at any time:
 * rows are claimed before the hand-over and settled after it, so nobody gets a second copy.
 */
export async function runDispatch(septima: Septima, id: string): Promise<void> {
  if (septima.cache.has(runningKey(id))) return;
  septima.cache.set(runningKey(id), true);
  try {
    let dispatch = await frozenDispatch(septima, id);
    if (dispatch?.state === "scheduled") {
      await moveDispatch(septima, id, "scheduled", "gathering");
      dispatch = await frozenDispatch(septima, id);
    }
    if (dispatch?.state === "gathering") {
      await gather(septima, dispatch);
      dispatch = await frozenDispatch(septima, id);
    }
    if (dispatch?.state === "sending") await send(septima, dispatch);
    const ended = (await frozenDispatch(septima, id))?.state;
    if (ended === "sent" || ended === "cancelled") await releaseCodes(septima.db, id, ended === "cancelled");
  } finally {
    septima.cache.delete(runningKey(id));
  }
}

async function send(septima: Septima, dispatch: Frozen): Promise<void> {
  await settleInterrupted(septima, dispatch.id);
  const { email } = dispatch;
  const bound = await boundEmail(septima, email, {
    content: dispatch.content ?? undefined,
    tags: dispatch.tags,
  });
  const batches = [
    ...new Set(
      bound.slots
        .map(({ field }) => field)
        .filter(isCode)
        .map(batchOf),
    ),
  ];
  const did = asksHistory(bound.asked, await audienceContext(septima));
  const brand = await brandOf(septima);
  const address = await readerAddresses(septima);
  const factory = new MessageFactory(
    bound,
    sharedHeaders(email, brand, { list: "letters", campaign: dispatch.campaignId, sending: dispatch.id }),
    `septima-${dispatch.id}`,
  );

  const handOver = async (row: Claimed, codes: Record<string, string> = {}): Promise<Outcome> => {
    const system = address(row.id, dispatch.campaignId);
    const reader = readerOf(row, email.language, system, codes);
    const message = factory.build(reader, {
      to: { name: contactName(row) === row.email ? "" : contactName(row), address: row.email },
      messageId: row.message_id,
      date: septima.now(),
      unsubscribe: system.unsubscribe,
    });
    try {
      await septima.relay.send({ from: factory.from(reader), to: row.email }, message, septima.stopping);
      return { id: row.id, state: "accepted", trouble: null, tried: true };
    } catch (error) {
      if (!(error instanceof RelayError) || ["closed", "away", "unknown"].includes(error.kind)) throw error;
      const wait = error.kind === "passing" ? WAITS[row.attempts] : undefined;
      return {
        id: row.id,
        state: wait === undefined ? "failed" : "pending",
        trouble: error.message,
        tried: true,
        gone: error.kind === "gone",
        ...(wait !== undefined && { nextTry: new Date(septima.now() + wait).toISOString() }),
      };
    }
  };

  const halted = () => septima.stopping.aborted || septima.cache.has(haltKey(dispatch.id));
  for (;;) {
    if (halted()) return;
    const claimed = await whole(septima, await claim(septima, dispatch.id), did);
    if (claimed.length === 0) break;
    const codes = await codesOf(
      septima,
      dispatch.campaignId,
      batches,
      claimed.map(({ id }) => id),
    );
    const { outcomes, stopped } = await handOverAll(
      claimed,
      septima.relay.connections,
      (row) => handOver(row, codes.get(row.id)),
      halted,
    );
    await settle(septima, dispatch.id, outcomes);
    if (outcomes.length < claimed.length) await settleInterrupted(septima, dispatch.id);
    if (stopped instanceof RelayError) {
      // A process that ends has no time to wait for its relay; the next one has.
      if (septima.stopping.aborted) return;
      await moveDispatch(
        septima,
        dispatch.id,
        "sending",
        "paused",
        `${stopped.message} Nothing is lost: resume when it is back.`,
      );
      return;
    }
    if (stopped) {
      if (!septima.stopping.aborted)
        await moveDispatch(
          septima,
          dispatch.id,
          "sending",
          "paused",
          `Something went wrong: ${stopped.message}. Nothing is lost: resume to try again.`,
        );
      throw stopped;
    }
  }
  const [open] = await septima.db.query<{ next_try: Date | null }>(
    "select next_try from recipients where dispatch_id = $1 and state in ('pending', 'handing') order by next_try limit 1",
    [dispatch.id],
  );
  if (!open) await moveDispatch(septima, dispatch.id, "sending", "sent");
  // Those who wait have their turn later; nothing is held open for them.
  else if (open.next_try) await septima.jobs.ask(DISPATCH_JOB, { id: dispatch.id }, open.next_try.getTime());
}

/**
 * Takes the next readers as *handing over*, unless the dispatch was paused. Those who may not be written to any more are
 * skipped. None when nobody is left whose turn it is.
 */
async function claim(septima: Septima, id: string): Promise<Claimed[]> {
  for (;;) {
    const rows = await septima.db.query<Claimed & { handing: boolean }>(
      `with next as (
         select r.contact_id, c.status = 'subscribed' as may from recipients r join contacts c on c.id = r.contact_id
         where r.dispatch_id = $1 and r.state = 'pending' and (r.next_try is null or r.next_try <= $3)
           and exists (select 1 from dispatches d where d.id = $1 and d.state = 'sending')
         order by r.contact_id limit $2 for update of r skip locked
       ), taken as (
         update recipients r set state = case when next.may then 'handing' else 'skipped' end,
           trouble = case when next.may then r.trouble else 'May not be written to any more' end, changed_at = $3
         from next where r.dispatch_id = $1 and r.contact_id = next.contact_id
         returning r.contact_id, r.message_id, r.attempts, r.state
       )
       select ${CONTACT_COLUMNS}, t.message_id, t.attempts, t.state = 'handing' as handing
       from taken t join contacts c on c.id = t.contact_id order by c.id`,
      [id, BATCH, new Date(septima.now())],
    );
    const claimed = rows.filter(({ handing }) => handing);
    if (claimed.length > 0 || rows.length === 0) return claimed;
  }
}

/** So many messages in a row whose fate is unknown are enough. */
const MOST_UNKNOWN = 3;

/**
 * Hands a batch over on all connections side by side, and ends when none of them is at work any more. Rows that were
 * not begun, or that the relay cannot have, go back; rows whose fate is unknown have no outcome.
 * @param halted whether no more is to be begun
 * @returns with what stopped it before the end of the batch
 */
async function handOverAll(
  claimed: readonly Claimed[],
  connections: number,
  handOver: (row: Claimed) => Promise<Outcome>,
  halted: () => boolean,
): Promise<{ outcomes: Outcome[]; stopped: Error | null }> {
  const outcomes: Outcome[] = [];
  const back = ({ id }: Claimed) => outcomes.push({ id, state: "pending", trouble: null, tried: false });
  let stopped: Error | null = null;
  let next = 0;
  let unknown = 0;
  const worker = async () => {
    while (next < claimed.length && !stopped && !halted()) {
      const row = claimed[next++];
      try {
        outcomes.push(await handOver(row));
        unknown = 0;
      } catch (error) {
        const kind = error instanceof RelayError ? error.kind : null;
        if (kind === "closed" || kind === "away") back(row);
        if (kind !== "unknown" || ++unknown >= MOST_UNKNOWN) stopped ??= error as Error;
      }
    }
  };
  await Promise.all(Array.from({ length: connections }, worker));
  claimed.slice(next).forEach(back);
  return { outcomes, stopped };
}

/** Starts doing dispatches: takes up those that were running, and makes sure that scheduled ones have their job. */
export async function startDispatching(septima: Septima): Promise<void> {
  await settleAbandoned(septima);
  await septima.jobs.work(DISPATCH_JOB, ({ id }) => runDispatch(septima, id), AT_ONCE);
  const rows = await septima.db.query<{ id: string; scheduled_for: Date | null }>(
    "select id, scheduled_for from dispatches where state in ('scheduled', 'gathering', 'sending')",
  );
  for (const row of rows) await septima.jobs.ask(DISPATCH_JOB, { id: row.id }, row.scheduled_for?.getTime());
}
