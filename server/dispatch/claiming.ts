/** Taking recipients in hand, so that nobody else does. */
import { TURN_SQL } from "../mail/signing-keys";
import type { Septima } from "../septima";
import { secretOf } from "../workspace/settings";
import { DELIVERED, type Delivered } from "./frozen";
import { messageIdSql } from "./message-id";

/**
 * By this part of a lease before its end it counts as over for whoever holds it: what is begun has to leave. The lease
 * itself runs by the clock of the database, which all share.
 */
const MARGIN = 1 / 4;

const MESSAGE_ID = messageIdSql({
  dispatch: "r.dispatch_id",
  contact: "r.contact_id",
  claim: "(r.claim + 1)",
  domain: "$6::text",
  secret: "$8::text",
});

/** A recipient that is in hand. */
export interface Claimed extends Delivered {
  attempts: number;
}

/** Until when a lease that begins now lasts; the parameter is its length in milliseconds. */
export const leaseSql = (parameter: number) =>
  `clock_timestamp() + $${parameter}::float8 * interval '1 millisecond'`;

/**
 * So many recipients are taken in hand at first, and at least and at most: what is in the hands of a process that dies has
 * to be asked about, so that it is about as many as are handed over in `STRETCH` milliseconds.
 */
const BATCH = { first: 2, least: 1, most: 480 };
const STRETCH = 150;
/** By how much more are taken than the last time, at most. */
const GROWTH = 4;

/** How many to take in hand next. @param took milliseconds, for the last of them */
export function nextBatch(last: { size: number; took: number } | null): number {
  if (!last) return BATCH.first;
  const wanted = Math.round((last.size / Math.max(last.took, 1)) * STRETCH);
  return Math.max(BATCH.least, Math.min(wanted, last.size * GROWTH, BATCH.most));
}

/**
 * Takes the next recipients of a dispatch in hand, if it is being sent: those after a contact, by number, whose turn has
 * come. Those who may not be written to any more are put aside.
 * @param domain of their Message-IDs; each time in hand has one of its own
 * @returns with how far it came: null when there was nobody after that contact
 */
export async function claim(
  septima: Septima,
  dispatchId: string,
  domain: string,
  after: number,
  most: number,
): Promise<{ claimed: Claimed[]; last: number | null }> {
  const rows = await septima.db.query<Claimed & { handing: boolean }>(
    `with next as (
       select r.contact_id, c.status = 'subscribed' as may, c.email
       from recipients r join contacts c on c.id = r.contact_id
       where r.dispatch_id = $1 and r.state = 'pending' and r.contact_id > $5
         and (r.next_try is null or r.next_try <= $3)
         and exists (select 1 from dispatches d where d.id = $1 and d.state = 'sending')
       order by r.contact_id limit $2 for update of r skip locked
     ), taken as (
       update recipients r set state = case when next.may then 'handing' else 'skipped' end,
         trouble = case when next.may then r.trouble else 'May not be written to any more' end,
         changed_at = $3, handed_at = $3, address = next.email, claim = r.claim + 1,
         message_id = ${MESSAGE_ID},
         turn = ${TURN_SQL}, worker = $4, leased_until = ${leaseSql(7)}
       from next where r.dispatch_id = $1 and r.contact_id = next.contact_id returning r.*
     )
     select ${DELIVERED}, r.attempts, r.state = 'handing' as handing from taken r order by r.contact_id`,
    [
      dispatchId,
      most,
      new Date(septima.now()),
      septima.worker.name,
      after,
      domain,
      septima.worker.lease,
      await secretOf(septima),
    ],
  );
  return { claimed: rows.filter(({ handing }) => handing), last: rows.at(-1)?.id ?? null };
}

/**
 * The lease on what a worker has in hand of a dispatch. It says again and again that it is alive; when it could not for
 * too long (the database is away, or the process stood still), nothing more may be begun.
 */
export class Hold {
  private until = 0;
  /** How many batches are in hand. */
  private held = 0;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly septima: Septima,
    private readonly dispatchId: string,
  ) {
    this.timer = setInterval(() => void this.renew(), septima.worker.lease / 4);
    this.timer.unref();
  }

  /** Takes recipients in hand under this lease, until they are settled: `release`. */
  async claim(domain: string, after: number, most: number): ReturnType<typeof claim> {
    const asked = performance.now();
    const taken = await claim(this.septima, this.dispatchId, domain, after, most);
    // Of several the first ends first.
    if (this.held === 0) this.until = this.endOf(asked);
    if (taken.claimed.length > 0) this.held++;
    return taken;
  }

  /** A batch that was claimed is settled. */
  release(): void {
    this.held--;
  }

  /** Whether what is in hand may have been taken over by somebody else. */
  get over(): boolean {
    return performance.now() > this.until;
  }

  private endOf(begun: number): number {
    return begun + this.septima.worker.lease * (1 - MARGIN);
  }

  private async renew(): Promise<void> {
    // What has run out is not brought back: somebody may have it.
    if (this.over) return;
    const asked = performance.now();
    try {
      await this.septima.db.query(
        `update recipients set leased_until = ${leaseSql(3)}
         where dispatch_id = $1 and state = 'handing' and worker = $2 and leased_until > clock_timestamp()`,
        [this.dispatchId, this.septima.worker.name, this.septima.worker.lease],
      );
      if (!this.over) this.until = this.endOf(asked);
    } catch {
      // It is tried again while the lease lasts.
    }
  }

  end(): void {
    clearInterval(this.timer);
  }
}
