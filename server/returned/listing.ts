/** What came back, to be looked at. */
import { contactName } from "~/core/audience";
import { contactsById } from "../audience/contacts";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import type { Via } from "./taking";

/** The kinds that are looked for: what failed, complaints, answers, and what cannot be proven to be about one of ours. */
export const RETURNED_SORTS = ["all", "failed", "complaints", "answers", "foreign"] as const;
export type ReturnedSort = (typeof RETURNED_SORTS)[number];

export interface ReturnedRow {
  id: string;
  /** ISO. */
  at: string;
  via: Via;
  kind: "bounce" | "delay" | "delivered" | "complaint" | "automatic" | "reply";
  sender: string;
  subject: string;
  words: string;
  severity: "gone" | "soft" | null;
  effect: "suppressed" | "counted" | "shown";
  /** Null when it cannot be proven whom it is about. */
  contact: { id: number; name: string } | null;
  campaign: { id: string; name: string; dispatch: string } | null;
}

const OF_SORT: Record<ReturnedSort, string> = {
  all: "true",
  failed: "r.kind in ('bounce', 'delay')",
  complaints: "r.kind = 'complaint'",
  answers: "r.kind in ('reply', 'automatic')",
  foreign: "r.proof is null",
};

/** The newest first. @param query words that stand in the sender, the subject, the reason or the address it was about */
export async function returnedPage(
  septima: Septima,
  query: { sort: ReturnedSort; text: string; offset: number; limit: number },
): Promise<{ total: number; rows: ReturnedRow[] }> {
  const where = `${OF_SORT[query.sort]} and ($1 = '' or position(lower($1) in
    lower(r.sender || ' ' || r.subject || ' ' || r.words || ' ' || coalesce(c.email, ''))) > 0)`;
  const from = `from returned r left join contacts c on c.id = r.contact_id
    left join dispatches d on d.id = r.dispatch_id left join campaigns k on k.id = d.campaign_id where ${where}`;
  const [{ total }] = await septima.db.query<{ total: number }>(`select count(*)::int as total ${from}`, [
    query.text.trim(),
  ]);
  const rows = await septima.db.query<
    Omit<ReturnedRow, "at" | "contact" | "campaign"> & {
      at: Date;
      contact_id: number | null;
      dispatch_id: string | null;
      campaign_id: string | null;
      campaign_name: string | null;
    }
  >(
    `select r.id, r.at, r.via, r.kind, r.sender, r.subject, r.words, r.severity, r.effect, r.contact_id,
       r.dispatch_id, k.id as campaign_id, k.name as campaign_name
     ${from} order by r.at desc, r.id limit $2 offset $3`,
    [query.text.trim(), query.limit, query.offset],
  );
  const those = rows.flatMap(({ contact_id }) => (contact_id === null ? [] : [contact_id]));
  const contacts = await contactsById(septima, those);
  return {
    total,
    rows: rows.map(({ at, contact_id, dispatch_id, campaign_id, campaign_name, ...row }) => {
      const contact = contact_id === null ? undefined : contacts.get(contact_id);
      return {
        ...row,
        at: at.toISOString(),
        contact: contact ? { id: contact.id, name: contactName(contact) } : null,
        campaign:
          campaign_id !== null && dispatch_id !== null
            ? { id: campaign_id, name: campaign_name ?? "", dispatch: dispatch_id }
            : null,
      };
    }),
  };
}

/** One of them as it came. @throws Refusal (404) when it is not there any more */
export async function returnedSource(septima: Septima, id: string): Promise<Uint8Array> {
  const [row] = await septima.db.query<{ source: string }>(
    "select encode(source, 'base64') as source from returned where id = $1",
    [id],
  );
  if (!row) throw new Refusal("This is not there any more.", 404);
  return Buffer.from(row.source, "base64");
}

/** So long they are kept, in days. */
const KEPT = 400;

/** Throws away what came back long ago; reasons stay with the contacts. */
export async function forgetReturned(septima: Septima): Promise<void> {
  await septima.db.query(`delete from returned where at < $1::timestamptz - make_interval(days => ${KEPT})`, [
    new Date(septima.now()),
  ]);
}
