import {
  type AudienceContext,
  asksHistory,
  type Contact,
  type RecordFacts,
  type Rule,
  withFacts,
} from "~/core/audience";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { recordFacts } from "./fields";
import { historiesOf } from "./history";

/** What a contact is made of, of `contacts c`, but the lists they are on. */
export const OWN_COLUMNS = "c.id, c.email, c.fields, c.status";

/** What a contact is made of, of `contacts c`. */
export const CONTACT_COLUMNS = `${OWN_COLUMNS},
  coalesce((select array_agg(m.list_id) from list_members m join lists l on l.id = m.list_id and l.deleted_at is null
    where m.contact_id = c.id), '{}') as lists`;

/**
 * Contacts as they came from the database, with the facts of the records they point to.
 * @param did whether with what they did, so that any rule can be asked of them
 */
export async function whole<C extends Contact>(
  septima: Septima,
  contacts: readonly C[],
  did = false,
): Promise<C[]> {
  return complete(septima.db, contacts, await recordFacts(septima), did);
}

/** The same within a transaction, of which nothing outside is asked; with as much as the rules need. */
export function wholeFrom<C extends Contact>(
  tx: Queries,
  contacts: readonly C[],
  context: AudienceContext,
  rules: readonly Rule[],
): Promise<C[]> {
  return complete(tx, contacts, context.records, asksHistory(rules, context));
}

async function complete<C extends Contact>(
  db: Queries,
  contacts: readonly C[],
  facts: RecordFacts | undefined,
  did: boolean,
): Promise<C[]> {
  const ids = contacts.map(({ id }) => id);
  const histories = did ? await historiesOf(db, ids) : null;
  return contacts.map((contact) => ({
    ...contact,
    fields: facts ? withFacts(contact.fields, facts) : contact.fields,
    ...(histories && { history: histories.get(contact.id) }),
  }));
}

/** Contacts by their numbers, so that any rule can be asked of them; those that are gone are left out. */
export async function contactsById(septima: Septima, ids: readonly number[]): Promise<Map<number, Contact>> {
  if (ids.length === 0) return new Map();
  const rows = await septima.db.query<Contact>(
    `select ${CONTACT_COLUMNS} from contacts c where c.id = any ($1::int[])`,
    [ids],
  );
  return new Map((await whole(septima, rows, true)).map((contact) => [contact.id, contact]));
}

/** What words are sought in, of `contacts c`: the address and the name in small letters. */
const HAYSTACK =
  "lower(c.email || ' ' || coalesce(c.fields ->> 'first_name', '') || ' ' || coalesce(c.fields ->> 'last_name', ''))";

/** The conditions on `contacts c` that the address or the name holds all words of a text. @param param writes a parameter */
export const soughtSql = (text: string, param: (word: string) => string): string[] =>
  text
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, 6)
    .map((word) => `strpos(${HAYSTACK}, ${param(word)}) > 0`);

/** Whether anybody is in the audience. */
export async function hasContacts({ db }: Pick<Septima, "db">): Promise<boolean> {
  const [row] = await db.query<{ some: boolean }>(
    "select exists (select 1 from contacts where status <> 'removed') as some",
  );
  return row.some;
}

/** Contacts whose address or name holds all the words, those who have been there longest first. */
export async function searchContacts(
  septima: Septima,
  text: string,
  limit: number,
  offset = 0,
): Promise<{ total: number; contacts: Contact[] }> {
  const words: string[] = [];
  const conditions = soughtSql(text, (word) => `$${words.push(word)}`);
  const those = `from contacts c where ${["c.status <> 'removed'", ...conditions].join(" and ")}`;
  const [rows, [{ total }]] = await Promise.all([
    septima.db.query<Contact>(
      `select ${CONTACT_COLUMNS} ${those} order by c.id limit ${limit} offset ${offset}`,
      words,
    ),
    septima.db.query<{ total: number }>(`select count(*)::int as total ${those}`, words),
  ]);
  return { total, contacts: await whole(septima, rows) };
}

/**
 * One contact.
 * @throws Refusal when there is none with that id
 */
export async function contactById(septima: Septima, id: number): Promise<Contact> {
  const contact = (await contactsById(septima, [id])).get(id);
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
