/** What became of recipients that were handed over, or were being handed over when something went away. */
import { setTimeout as sleep } from "node:timers/promises";
import { EVENT_KINDS } from "~/core/audience";
import { audienceChanged, behaviourChanged } from "../audience/answers";
import { suppress } from "../audience/suppressing";
import { mailboxesOf } from "../mail/chosen-relay";
import type { Septima } from "../septima";
import { releaseCodes } from "../sources/codes";
import { leaseSql } from "./claiming";
import { stateOf } from "./dispatches";
import type { RecipientState } from "./recipient";

/** What became of one message that was taken in hand. */
export interface Outcome {
  id: number;
  messageId: string;
  state: RecipientState;
  trouble: string | null;
  /** Whether it was handed over, or at least begun. */
  tried: boolean;
  /** When a pending one may be tried again, as an ISO time; at once when missing. */
  nextTry?: string;
  /** Whether the address takes no mail, and is not to be written to again. */
  gone?: boolean;
}

/**
 * Writes down what became of messages, each known by its Message-ID: what is told of one that somebody else has taken in
 * hand since changes nothing, and twice is as once. Whoever was away too long and comes back with the truth about a
 * message that counts as unconfirmed is heard. An address that takes no mail is not written to again.
 */
export async function settle(septima: Septima, id: string, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  // Who got it is an event, in the same breath.
  await septima.db.query(
    `with settled as (
     update recipients r set state = o.state, trouble = coalesce(o.trouble, case when o.tried then null else r.trouble end),
       troubles = case when o.trouble is null then r.troubles
         else coalesce(r.troubles, '[]') || jsonb_build_array(jsonb_build_object('at', $3::timestamptz, 'words', o.trouble)) end,
       attempts = r.attempts + case when o.tried then 1 else 0 end, next_try = o."nextTry", changed_at = $3,
       worker = null, leased_until = null
     from jsonb_to_recordset($2::jsonb)
       as o(id integer, "messageId" text, state text, trouble text, tried boolean, "nextTry" timestamptz)
     where r.dispatch_id = $1 and r.contact_id = o.id and r.message_id = o."messageId"
       and (r.state = 'handing' or (r.state = 'unconfirmed' and o.state in ('accepted', 'failed')))
     returning r.contact_id, r.state)
     insert into events (at, contact_id, campaign, kind)
     select $3, s.contact_id, c.number, ${EVENT_KINDS.sent} from settled s
     join dispatches d on d.id = $1 join campaigns c on c.id = d.campaign_id where s.state = 'accepted'`,
    [id, JSON.stringify(outcomes), new Date(septima.now())],
  );
  behaviourChanged(septima);
  const gone = outcomes.filter((outcome) => outcome.gone);
  if (gone.length > 0) {
    const reasons = gone.map((one) => ({ contact: one.id, kind: "gone" as const, words: one.trouble ?? "" }));
    await suppress(septima.db, reasons, new Date(septima.now()));
    audienceChanged(septima);
  }
}

/**
 * Settles messages of which nobody can say whether they arrived. The postroom knows which it has, and takes none of the
 * others any more; of a relay that cannot tell, they stay unconfirmed and are not sent again behind anyone's back.
 */
export async function settleUnknown(
  septima: Septima,
  id: string,
  messages: readonly { id: number; messageId: string }[],
): Promise<void> {
  if (messages.length === 0) return;
  const mailboxes = await mailboxesOf(septima);
  const arrived = await mailboxes?.arrivedOrNever(messages.map(({ messageId }) => messageId));
  const state = (messageId: string): RecipientState =>
    arrived === undefined ? "unconfirmed" : arrived.has(messageId) ? "accepted" : "pending";
  await settle(
    septima,
    id,
    messages.map((one) => ({ ...one, state: state(one.messageId), trouble: null, tried: true })),
  );
}

/** The first pause before what became of messages is written down again, and the longest, in milliseconds. */
const PAUSE = { first: 250, longest: 5000 };

/**
 * Tries again to write down what became of messages while the database is away: until somebody else will have taken them
 * over long since. What it throws then is lost, and they count as unconfirmed.
 */
export async function stubbornly(septima: Septima, write: () => Promise<void>): Promise<void> {
  const begun = performance.now();
  for (let pause = PAUSE.first; ; pause = Math.min(pause * 2, PAUSE.longest)) {
    try {
      await write();
      return;
    } catch (error) {
      if (performance.now() - begun > septima.worker.lease * 2) throw error;
      await sleep(pause);
    }
  }
}

/** So many are taken over in one go. */
const AT_ONCE = 500;

/** Takes over what others had in hand whose lease has run out, and settles it. Returns of how many dispatches. */
export async function takeOver(septima: Septima): Promise<number> {
  const dispatches = new Set<string>();
  for (;;) {
    const rows = await septima.db.query<{ dispatch_id: string; id: number; messageId: string }>(
      `with over as (
         select dispatch_id, contact_id from recipients where state = 'handing' and leased_until < clock_timestamp()
         limit ${AT_ONCE} for update skip locked)
       update recipients r set worker = $1, leased_until = ${leaseSql(2)} from over
       where r.dispatch_id = over.dispatch_id and r.contact_id = over.contact_id
       returning r.dispatch_id, r.contact_id as id, r.message_id as "messageId"`,
      [septima.worker.name, septima.worker.lease],
    );
    if (rows.length === 0) return dispatches.size;
    for (const id of new Set(rows.map((row) => row.dispatch_id))) {
      const own = rows.filter((row) => row.dispatch_id === id);
      await settleUnknown(
        septima,
        id,
        own.map(({ id: contact, messageId }) => ({ id: contact, messageId })),
      );
      const state = await stateOf(septima.db, id);
      if (state === "cancelled") await releaseCodes(septima.db, id, true);
      dispatches.add(id);
    }
  }
}

/** Ends all leases: where no other process can be alive, whoever held them is not. */
export async function endLeases(septima: Septima): Promise<void> {
  await septima.db.query("update recipients set leased_until = '-infinity' where state = 'handing'");
}
