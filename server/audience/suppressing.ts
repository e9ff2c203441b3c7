/** Addresses that are not written to any more, since they take no mail or somebody complained: why, and the way back. */
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { WISHES_NONE } from "./choices";

export interface Suppression {
  contact: number;
  /** The address takes no mail any more; letters failed too often; they called one spam. */
  kind: "gone" | "soft" | "complaint";
  /** In the words of whoever said so. */
  words: string;
  /** What came back and says it. */
  returned?: string;
}

/**
 * Suppresses contacts, each with its reason. Whoever unsubscribed or was removed stays what they are, but a complaint is for
 * ever. Whoever calls tells others that the audience has changed: `audienceChanged`.
 */
export async function suppress(db: Queries, those: readonly Suppression[], at: Date): Promise<void> {
  if (those.length === 0) return;
  await db.query(
    `with told as (
       select distinct on (contact) contact, kind, words, returned
       from jsonb_to_recordset($1::jsonb) as it(contact integer, kind text, words text, returned text)
       order by contact, kind = 'complaint' desc
     ), changed as (
       update contacts c set status = case told.kind when 'complaint' then 'complained' else 'bounced' end
       from told where c.id = told.contact
         and (c.status = 'subscribed' or (told.kind = 'complaint' and c.status in ('unsubscribed', 'bounced')))
       returning c.id
     )
     insert into suppressions (contact_id, at, kind, words, returned_id)
     select told.contact, $2, told.kind, told.words, told.returned from told join changed on changed.id = told.contact`,
    [JSON.stringify(those), at],
  );
}

/** Why a contact is not written to; null when they are, or nobody wrote down why. */
export async function suppressionOf(
  septima: Septima,
  contact: number,
): Promise<{ at: string; kind: Suppression["kind"]; words: string; returned: string | null } | null> {
  const [row] = await septima.db.query<{
    at: Date;
    kind: Suppression["kind"];
    words: string;
    returned: string | null;
  }>(
    `select at, kind, words, returned_id as returned from suppressions
     where contact_id = $1 and lifted_at is null order by at desc, id desc limit 1`,
    [contact],
  );
  return row ? { ...row, at: row.at.toISOString() } : null;
}

/**
 * Lets an address be written to again that took no mail, by hand. Whoever had wished for no letters before stays
 * unsubscribed.
 * @param way how it is known that it takes mail again
 * @throws Refusal (409) when it is not suppressed, or for good
 */
export async function liftSuppression(septima: Septima, contact: number, way: string): Promise<void> {
  const how = way.trim();
  if (how === "")
    throw new Refusal("Say how you know that the address takes mail again: it is kept with them.");
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    const changed = await tx.query(
      `update contacts c set status = case when ${WISHES_NONE} then 'unsubscribed' else 'subscribed' end
       where c.id = $1 and c.status = 'bounced' returning c.id`,
      [contact],
    );
    if (changed.length === 0) {
      const [row] = await tx.query<{ status: string }>("select status from contacts where id = $1", [
        contact,
      ]);
      throw new Refusal(
        row?.status === "complained"
          ? "They called a letter spam: the law and their mailbox want them left alone, for ever."
          : "This address is not suppressed any more.",
        409,
      );
    }
    await tx.query(
      "update suppressions set lifted_at = $2, lifted_way = $3 where contact_id = $1 and lifted_at is null",
      [contact, at, how],
    );
    // What failed before counts no more.
    await tx.query("update returned set severity = null where contact_id = $1 and severity = 'soft'", [
      contact,
    ]);
  });
  audienceChanged(septima);
}
