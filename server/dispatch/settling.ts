/** What became of recipients that were handed over, or were being handed over when something went away. */
import { EVENT_KINDS } from "~/core/audience";
import { audienceChanged, behaviourChanged } from "../audience/answers";

import type { Septima } from "../septima";
import { releaseCodes } from "../sources/codes";
import type { RecipientState } from "./recipient";

/** What became of one recipient. */
export interface Outcome {
  id: number;
  state: RecipientState;
  trouble: string | null;
  /** Whether it was handed over, or at least begun. */
  tried: boolean;
  /** When a pending one may be tried again, as an ISO time; at once when missing. */
  nextTry?: string;
  /** Whether the address takes no mail, and is not to be written to again. */
  gone?: boolean;
}

/** Writes down what became of recipients. An address that takes no mail is not written to again. */
export async function settle(septima: Septima, id: string, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  // Who got it is an event, in the same breath.
  await septima.db.query(
    `with settled as (
     update recipients r set state = o.state, trouble = coalesce(o.trouble, case when o.tried then null else r.trouble end),
       attempts = r.attempts + case when o.tried then 1 else 0 end, next_try = o."nextTry", changed_at = $3
     from jsonb_to_recordset($2::jsonb) as o(id integer, state text, trouble text, tried boolean, "nextTry" timestamptz)
     where r.dispatch_id = $1 and r.contact_id = o.id returning r.contact_id, r.state)
     insert into events (at, contact_id, campaign, kind)
     select $3, s.contact_id, c.number, ${EVENT_KINDS.sent} from settled s
     join dispatches d on d.id = $1 join campaigns c on c.id = d.campaign_id where s.state = 'accepted'`,
    [id, JSON.stringify(outcomes), new Date(septima.now())],
  );
  behaviourChanged(septima);
  const gone = outcomes.filter((outcome) => outcome.gone).map((outcome) => outcome.id);
  if (gone.length > 0) {
    await septima.db.query(
      "update contacts set status = 'bounced' where id = any($1::integer[]) and status = 'subscribed'",
      [gone],
    );
    audienceChanged(septima);
  }
}

/**
 * Settles rows that were being handed over when the process or the relay went away. The postroom knows which
 * messages it has; of a relay that cannot tell, they stay unconfirmed and are not sent again behind anyone's back.
 */
export async function settleInterrupted(septima: Septima, id: string): Promise<void> {
  const rows = await septima.db.query<{ contact_id: number; message_id: string }>(
    "select contact_id, message_id from recipients where dispatch_id = $1 and state = 'handing'",
    [id],
  );
  if (rows.length === 0) return;
  const arrived = await septima.mailboxes?.has(rows.map((row) => row.message_id));
  const state = (messageId: string): RecipientState =>
    arrived === undefined ? "unconfirmed" : arrived.has(messageId) ? "accepted" : "pending";
  await settle(
    septima,
    id,
    rows.map((row) => ({ id: row.contact_id, state: state(row.message_id), trouble: null, tried: true })),
  );
}

/** Settles what a process that died left in dispatches that are not going on by themselves. */
export async function settleAbandoned(septima: Septima): Promise<void> {
  const rows = await septima.db.query<{ id: string }>(
    `select id from dispatches d where state in ('paused', 'cancelled')
       and exists (select 1 from recipients r where r.dispatch_id = d.id and r.state = 'handing')`,
  );
  for (const { id } of rows) await settleInterrupted(septima, id);
  const ended = await septima.db.query<{ id: string; state: string }>(
    `select id, state from dispatches d where state in ('sent', 'cancelled')
       and exists (select 1 from codes c where c.dispatch_id = d.id)`,
  );
  for (const { id, state } of ended) await releaseCodes(septima.db, id, state === "cancelled");
}
