/** Puts made-up people with their lists and histories into a database, for tests. */
import type { Contact } from "~/core/audience";
import type { Database } from "../db/database";
import { addEvents } from "./history";

export type Person = Omit<Contact, "id">;

/**
 * Lists and campaigns that people and rules name; addresses need not be unique here. Campaigns have numbers far from each
 * other, and then close, as in a workspace that has sent hundreds.
 */
export async function preparePeople(db: Database, lists: readonly string[], campaigns: readonly string[]) {
  await db.query("insert into lists (id, name, created_at) select id, id, now() from unnest($1::text[]) id", [
    lists,
  ]);
  await db.query(
    `insert into campaigns (id, name, email, created_at, updated_at, number)
     select id, id, '{}', now(), now(), case when at = 1 then 1 else 63 + at end
     from unnest($1::text[]) with ordinality as given(id, at)`,
    [campaigns],
  );
  await db.query("drop index contacts_email");
}

/** Puts these and nobody else into the audience, numbered from `step` on in steps of it. */
export async function storePeople(db: Database, people: readonly Person[], step = 1): Promise<void> {
  await db.query(
    "truncate contacts, list_members, events, orders, order_lines, recipients, unsubscribes, proofs, returned, suppressions",
  );
  const all = JSON.stringify(people);
  await db.query(
    `insert into contacts (id, email, fields, status, created_at)
     select ordinality * $2::int, it ->> 'email', it -> 'fields', coalesce(it ->> 'status', 'subscribed'), now()
     from jsonb_array_elements($1::jsonb) with ordinality as t(it, ordinality)`,
    [all, step],
  );
  await db.query(
    `insert into list_members (list_id, contact_id) select l, ordinality * $2::int
     from jsonb_array_elements($1::jsonb) with ordinality as t(it, ordinality), jsonb_array_elements_text(it -> 'lists') l`,
    [all, step],
  );
  await addEvents(
    db,
    people.flatMap(({ history }, index) =>
      (history?.events ?? []).map(({ what, at, campaign, address }) => ({
        what,
        contact: (index + 1) * step,
        at: new Date(at),
        campaign,
        ...(address !== undefined && { place: { block: "b", address } }),
      })),
    ),
  );
  await db.query(
    `with given as (
       select ordinality::int * $2::int as contact, o, o_at, row_number() over ()::int as id
       from jsonb_array_elements($1::jsonb) with ordinality as t(it, ordinality),
         jsonb_array_elements(it -> 'history' -> 'orders') o, to_timestamp((o ->> 'at')::numeric / 1000) o_at
     ), written as (
       insert into orders (id, number, contact_id, at, currency, total)
       overriding system value select id, id::text, contact, o_at, 'GBP', 0 from given
     )
     insert into order_lines (order_id, line, product, name, category, quantity, price)
     select id, line, l ->> 'product', '', l ->> 'category', 1, 0
     from given, jsonb_array_elements(o -> 'lines') with ordinality as lines(l, line)`,
    [all, step],
  );
}
