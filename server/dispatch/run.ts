/** Carrying one dispatch out, beside whoever else does. */
import { domainOf } from "~/core/mime";
import { RelayError } from "../mail/relay";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { codesOf, releaseCodes } from "../sources/codes";
import { type Claimed, Hold, nextBatch } from "./claiming";
import { type Booked, bookedDispatch, moveDispatch, stateOf } from "./dispatches";
import { frozenOf, type Made, type Maker, makerOf } from "./frozen";
import { freezeLate, gather } from "./gather";
import type { Frozen } from "./making";
import { type Outcome, settle, settleUnknown, stubbornly } from "./settling";

/** How long a reader waits after each passing trouble, in milliseconds; after the last there is no more try. */
const WAITS = [5, 20, 60, 240].map((minutes) => minutes * 60_000);

/**
 * Carries a dispatch out from wherever it stands until nothing is left to do now. May be run at any time, and by several
 * at once: rows are claimed before the hand-over and settled after it, so nobody gets a second copy.
 */
export async function runDispatch(septima: Septima, id: string): Promise<void> {
  if ((await stateOf(septima.db, id)) === "scheduled")
    await moveDispatch(septima, id, "scheduled", "gathering");
  if ((await stateOf(septima.db, id)) === "gathering") {
    const booked = await bookedDispatch(septima, id);
    if (booked) await gather(septima, booked);
  }
  if ((await stateOf(septima.db, id)) === "sending") {
    const booked = await bookedDispatch(septima, id);
    if (booked) await send(septima, booked);
  }
  const ended = await stateOf(septima.db, id);
  if (ended === "sent" || ended === "cancelled") await releaseCodes(septima.db, id, ended === "cancelled");
}

async function send(septima: Septima, dispatch: Booked): Promise<void> {
  let frozen = await frozenOf(septima, dispatch.id);
  if (!frozen) {
    await freezeLate(septima, dispatch);
    frozen = (await frozenOf(septima, dispatch.id))!;
  }
  const { id } = dispatch;
  const maker = await makerOf(septima, dispatch, frozen);
  let steered = false;
  const deaf = septima.news.of("dispatches", id, () => {
    void stateOf(septima.db, id).then(
      (state) => {
        steered = state !== "sending";
      },
      () => undefined,
    );
  });
  const hold = new Hold(septima, id);
  try {
    const stopped = await handOverAll(septima, dispatch, frozen, maker, hold, () => steered);
    if (stopped) await stop(septima, id, stopped);
    else if (!septima.stopping.aborted) await finish(septima, id);
  } finally {
    hold.end();
    deaf();
  }
}

/** Pauses a dispatch whose messages cannot be handed over. @throws what is no trouble of the relay's */
async function stop(septima: Septima, id: string, why: Error): Promise<void> {
  // A process that ends has no time to wait for its relay; the next one has.
  if (!septima.stopping.aborted) {
    const words =
      why instanceof RelayError
        ? `${why.message} Nothing is lost: resume when it is back.`
        : why instanceof Refusal
          ? `${why.message} Nothing is lost: resume then.`
          : `Something went wrong: ${why.message}. Nothing is lost: resume to try again.`;
    await moveDispatch(septima, id, "sending", "paused", words);
  }
  if (!(why instanceof RelayError)) throw why;
}

/** Ends a dispatch when everybody's fate is known. */
async function finish(septima: Septima, id: string): Promise<void> {
  const [open] = await septima.db.query(
    "select 1 from recipients where dispatch_id = $1 and state in ('pending', 'handing') limit 1",
    [id],
  );
  if (!open) await moveDispatch(septima, id, "sending", "sent");
}

/** Recipients in hand, with the codes of those who have any. */
interface Batch {
  claimed: Claimed[];
  codes: Map<number, Record<string, string>>;
}

/**
 * Claims, hands over and settles until nobody's turn has come: while one batch is handed over, the next is taken in hand and
 * the last is settled. Returns what stopped it before.
 */
async function handOverAll(
  septima: Septima,
  dispatch: Booked,
  { headers }: Frozen,
  maker: Maker,
  hold: Hold,
  steered: () => boolean,
): Promise<Error | null> {
  const { id, campaignId } = dispatch;
  const domain = domainOf(headers.from);
  const streak = { unknown: 0 };
  let stopped: Error | null = null;
  const halted = () => stopped !== null || septima.stopping.aborted || steered();
  // Where others have been is not looked at again until the end: claiming costs the same however many are through.
  let after = 0;
  let before: { size: number; took: number } | null = null;
  const take = async (): Promise<Batch | null> => {
    while (!halted()) {
      const { claimed, last } = await hold.claim(domain, after, nextBatch(before));
      if (last === null && after === 0) break;
      after = last ?? 0;
      if (claimed.length === 0) continue;
      const ids = claimed.map((row) => row.id);
      return { claimed, codes: await codesOf(septima.db, campaignId, maker.batches, ids) };
    }
    return null;
  };
  let settled: Promise<void> = Promise.resolve();
  let coming = take();
  try {
    for (;;) {
      const batch = await coming;
      if (!batch) break;
      coming = take();
      // Its error is met where it is waited for.
      coming.catch(() => undefined);
      const begun = performance.now();
      const came = await handOverBatch(
        septima,
        batch.claimed,
        (row) => maker.make(row, batch.codes.get(row.id)),
        () => halted() || hold.over,
        streak,
      );
      before = { size: batch.claimed.length, took: performance.now() - begun };
      stopped ??= came.stopped;
      await settled;
      settled = settleBatch(septima, id, came).finally(() => hold.release());
      settled.catch(() => undefined);
    }
  } finally {
    await settled;
  }
  return stopped;
}

async function settleBatch(septima: Septima, id: string, { outcomes, unknown }: Came): Promise<void> {
  await stubbornly(septima, () => settle(septima, id, outcomes));
  await stubbornly(septima, () => settleUnknown(septima, id, unknown));
}

/** Hands one message over. @throws RelayError for what concerns all of them, or when nobody knows what became of it */
async function handOver(septima: Septima, row: Claimed, { returnPath, message }: Made): Promise<Outcome> {
  const of = { id: row.id, messageId: row.messageId, tried: true };
  try {
    await septima.relay.send({ from: returnPath, to: row.address }, message, septima.stopping);
    return { ...of, state: "accepted", trouble: null };
  } catch (error) {
    if (!(error instanceof RelayError) || ["closed", "away", "unknown"].includes(error.kind)) throw error;
    const wait = error.kind === "passing" ? WAITS[row.attempts] : undefined;
    return {
      ...of,
      state: wait === undefined ? "failed" : "pending",
      trouble: error.message,
      gone: error.kind === "gone",
      ...(wait !== undefined && { nextTry: new Date(septima.now() + wait).toISOString() }),
    };
  }
}

/** What came of a batch: those whose fate is unknown, and what stopped it before its end. */
interface Came {
  outcomes: Outcome[];
  unknown: Claimed[];
  stopped: Error | null;
}

/** So many messages in a row whose fate is unknown are enough. */
const MOST_UNKNOWN = 3;

/**
 * Hands a batch over on all connections side by side, and ends when none of them is at work any more. Rows that were
 * not begun, or that the relay cannot have, go back.
 * @param halted whether no more is to be begun
 * @param streak how many in a row have an unknown fate, also of the batches before
 */
async function handOverBatch(
  septima: Septima,
  claimed: readonly Claimed[],
  make: (row: Claimed) => Promise<Made>,
  halted: () => boolean,
  streak: { unknown: number },
): Promise<Came> {
  const outcomes: Outcome[] = [];
  const unknown: Claimed[] = [];
  const back = ({ id, messageId }: Claimed) =>
    outcomes.push({ id, messageId, state: "pending", trouble: null, tried: false });
  let stopped: Error | null = null;
  let next = 0;
  const connection = async () => {
    while (next < claimed.length && !stopped && !halted()) {
      const row = claimed[next++];
      let made: Made;
      try {
        made = await make(row);
      } catch (error) {
        back(row);
        stopped ??= error as Error;
        break;
      }
      try {
        outcomes.push(await handOver(septima, row, made));
        streak.unknown = 0;
      } catch (error) {
        const kind = error instanceof RelayError ? error.kind : null;
        if (kind === "closed" || kind === "away") back(row);
        else unknown.push(row);
        if (kind !== "unknown" || ++streak.unknown >= MOST_UNKNOWN) stopped ??= error as Error;
      }
    }
  };
  await Promise.all(Array.from({ length: septima.relay.connections }, connection));
  claimed.slice(next).forEach(back);
  return { outcomes, unknown, stopped };
}
