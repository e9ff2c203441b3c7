/** What contacts, or somebody for them, chose about what they get; each choice is written down. */

import type { Topic } from "~/core/readers";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";

/** The lists that readers may choose, and whether somebody is on them. */
export async function topicsOf(septima: Septima, contactId: number): Promise<Topic[]> {
  return septima.db.query<Topic>(
    `select l.id, l.name, l.about,
       exists (select 1 from list_members m where m.list_id = l.id and m.contact_id = $1) as on
     from lists l where l.topic and l.deleted_at is null order by l.name`,
    [contactId],
  );
}

interface Choice {
  contact: number;
  what: "subscribed" | "joined" | "left";
  list?: string;
  campaign?: string | null;
  /** How it came about, in a word or a sentence. */
  way: string;
}

async function record(tx: Queries, septima: Septima, choices: readonly Choice[]): Promise<void> {
  for (const { contact, what, list = null, campaign = null, way } of choices)
    await tx.query(
      "insert into choices (contact_id, at, what, list_id, campaign_id, way) values ($1, $2, $3, $4, $5, $6)",
      [contact, new Date(septima.now()), what, list, campaign, way],
    );
}

/**
 * Puts somebody on the topics they chose and takes them off the others. Lists that are no topics are not touched.
 * @param campaign whose link they came by
 */
export async function chooseTopics(
  septima: Septima,
  contact: number,
  chosen: readonly string[],
  { campaign = null, way }: { campaign?: string | null; way: string },
): Promise<void> {
  await septima.db.transaction(async (tx) => {
    const topics = await tx.query<{ id: string; on: boolean }>(
      `select l.id, exists (select 1 from list_members m where m.list_id = l.id and m.contact_id = $1) as on
       from lists l where l.topic and l.deleted_at is null`,
      [contact],
    );
    const join = topics.filter(({ id, on }) => !on && chosen.includes(id)).map(({ id }) => id);
    const leave = topics.filter(({ id, on }) => on && !chosen.includes(id)).map(({ id }) => id);
    await tx.query(
      "insert into list_members (list_id, contact_id) select id, $2 from unnest($1::text[]) id on conflict do nothing",
      [join, contact],
    );
    await tx.query("delete from list_members where contact_id = $2 and list_id = any ($1::text[])", [
      leave,
      contact,
    ]);
    await record(tx, septima, [
      ...join.map((list) => ({ contact, what: "joined" as const, list, campaign, way })),
      ...leave.map((list) => ({ contact, what: "left" as const, list, campaign, way })),
    ]);
  });
  audienceChanged(septima);
}

/**
 * The condition on `contacts c` that they wished for no more letters and have not asked for them again since: nothing but
 * their own asking makes them subscribed.
 */
export const WISHES_NONE = `exists (select 1 from unsubscribes u where u.contact_id = c.id and not exists (
  select 1 from choices h where h.contact_id = c.id and h.what = 'subscribed' and h.at >= u.at))`;

/**
 * Unsubscribes somebody from everything. Twice is as once; who bounced, complained or was removed stays what they are, but
 * their wish is written down and holds whatever becomes of them.
 */
export async function endSubscription(
  septima: Septima,
  contact: number,
  { campaign, way }: { campaign: string | null; way: "page" | "one-click" | "hand" },
): Promise<void> {
  await septima.db.transaction((tx) =>
    endSubscriptions(tx, [contact], { campaign, way, at: new Date(septima.now()) }),
  );
  audienceChanged(septima);
}

/** The same for several, within a transaction; the caller tells that the audience has changed. */
export async function endSubscriptions(
  tx: Queries,
  contacts: readonly number[],
  { campaign, way, at }: { campaign: string | null; way: "page" | "one-click" | "hand" | "door"; at: Date },
): Promise<void> {
  await tx.query("select 1 from contacts where id = any($1::int[]) order by id for update", [contacts]);
  await tx.query(
    `insert into unsubscribes (contact_id, campaign_id, way, at) select c.id, $2, $3, $4
     from contacts c where c.id = any($1::int[]) and not ${WISHES_NONE}`,
    [contacts, campaign, way, at],
  );
  await tx.query(
    "update contacts set status = 'unsubscribed' where id = any($1::int[]) and status = 'subscribed'",
    [contacts],
  );
}

/**
 * Subscribes somebody again who had unsubscribed, and writes down how that came.
 * @throws Refusal (409) when they bounced, complained or were removed: they cannot be written to again
 */
export async function subscribeAgain(
  septima: Septima,
  contact: number,
  { campaign = null, way }: { campaign?: string | null; way: string },
): Promise<void> {
  if (way.trim() === "") throw new Refusal("Say how they asked for it: it is kept with them.");
  await septima.db.transaction(async (tx) => {
    const rows = await tx.query(
      "update contacts set status = 'subscribed' where id = $1 and status = 'unsubscribed' returning id",
      [contact],
    );
    if (rows.length > 0) return record(tx, septima, [{ contact, what: "subscribed", campaign, way }]);
    const [row] = await tx.query<{ status: string }>("select status from contacts where id = $1", [contact]);
    if (row && row.status !== "subscribed")
      throw new Refusal(
        row.status === "bounced"
          ? "This address takes no mail, so it cannot be written to."
          : row.status === "removed"
            ? "Bring the contact back first."
            : "Who called a letter spam is not written to again.",
        409,
      );
  });
  audienceChanged(septima);
}
