import type { Contact } from "~/core/audience";
import { Refusal, type Septima } from "../septima";
import { answersChanged } from "./answers";

const COLUMNS = `c.id, c.email, c.fields,
  coalesce((select array_agg(m.list_id) from list_members m where m.contact_id = c.id), '{}') as lists`;

/** Called after contacts, lists or segments have changed. */
export function audienceChanged(septima: Septima): void {
  answersChanged(septima);
  septima.cache.delete("audience context");
}

/** Contacts by their numbers; those that are gone are left out. */
export async function contactsById(septima: Septima, ids: readonly number[]): Promise<Map<number, Contact>> {
  if (ids.length === 0) return new Map();
  const rows = await septima.db.query<Contact>(
    `select ${COLUMNS} from contacts c where c.id = any ($1::int[])`,
    [ids],
  );
  return new Map(rows.map((contact) => [contact.id, contact]));
}

/** Contacts whose address or name holds all the words, those who match at the start first. */
export async function searchContacts(
  septima: Septima,
  text: string,
  limit: number,
  offset = 0,
): Promise<{ total: number; contacts: Contact[] }> {
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean).slice(0, 6);
  const haystack =
    "lower(c.email || ' ' || coalesce(c.fields ->> 'first_name', '') || ' ' || coalesce(c.fields ->> 'last_name', ''))";
  const conditions = words.map((_, index) => `strpos(${haystack}, $${index + 3}) > 0`);
  const where = conditions.length > 0 ? conditions.join(" and ") : "true";
  const rows = await septima.db.query<Contact & { total: number }>(
    `select ${COLUMNS}, count(*) over () as total from contacts c where ${where} order by c.id limit $1 offset $2`,
    [limit, offset, ...words],
  );
  return {
    total: rows[0]?.total ?? 0,
    contacts: rows.map(({ id, email, fields, lists }) => ({ id, email, fields, lists })),
  };
}

/**
 * One contact.
 * @throws Refusal when there is none with that id
 */
export async function contactById(septima: Septima, id: number): Promise<Contact> {
  const [contact] = await septima.db.query<Contact>(`select ${COLUMNS} from contacts c where c.id = $1`, [
    id,
  ]);
  if (!contact) throw new Refusal("This contact does not exist any more.", 404);
  return contact;
}

/** Adds contacts in one go; those whose address is there already are left as they are. Returns how many are new. */
export async function addContacts(
  septima: Septima,
  contacts: readonly { email: string; fields: Record<string, unknown>; lists?: readonly string[] }[],
): Promise<number> {
  let added = 0;
  for (let from = 0; from < contacts.length; from += 2000) {
    const batch = contacts.slice(from, from + 2000);
    const rows = await septima.db.query<{ id: number }>(
      `with new as (
         insert into contacts (email, fields, created_at)
         select it ->> 'email', it -> 'fields', $2 from jsonb_array_elements($1::jsonb) it
         on conflict do nothing returning id, email
       ), joined as (
         insert into list_members (list_id, contact_id)
         select list, new.id from jsonb_array_elements($1::jsonb) it
         join new on new.email = it ->> 'email', jsonb_array_elements_text(it -> 'lists') list
         on conflict do nothing
       )
       select id from new`,
      [
        JSON.stringify(batch.map(({ email, fields, lists }) => ({ email, fields, lists: lists ?? [] }))),
        new Date(septima.now()),
      ],
    );
    added += rows.length;
  }
  audienceChanged(septima);
  return added;
}
