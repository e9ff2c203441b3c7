/** All that is known of one contact, and changing it. */
import {
  type Contact,
  type ContactStatus,
  type FieldDef,
  givenValue,
  isAddress,
  RuleError,
} from "~/core/audience";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { contactById } from "./contacts";
import { fieldsOf } from "./fields";
import { SelectionSchema, selectedReaders } from "./selection";

/** Something that happened between us and a contact. */
export interface Happening {
  kind:
    | "sent"
    | "opened"
    | "clicked"
    | "bought"
    | "unsubscribed"
    | "answered"
    | "chose"
    | "suppressed"
    | "lifted";
  at: string;
  /** Null when the campaign is gone. */
  campaign: { id: string; name: string } | null;
  /** In words what they chose, of what was sent its state, of a click the address, of an order what was in it, of an unsubscription the way, of an answer what it was. */
  how: string;
  trouble: string | null;
  /** The sending whose message can be looked at as they got it. */
  dispatch: string | null;
}

export interface ContactFacts {
  contact: Contact;
  status: ContactStatus;
  since: string;
  /** The newest first, at most `MOST` of them. */
  history: Happening[];
  /** Drafts whose readers they are among, the newest first. */
  drafts: { id: string; name: string }[];
}

/** So much of a contact's history is shown. */
export const MOST = 200;
/** So many of the newest drafts are looked into. */
const DRAFTS = 60;

/**
 * What is known of a contact.
 * @throws Refusal (404) when there is none with that id
 */
export async function contactFacts(septima: Septima, id: number): Promise<ContactFacts> {
  const contact = await contactById(septima, id);
  const [{ status, created_at }] = await septima.db.query<{
    status: ContactFacts["status"];
    created_at: Date;
  }>("select status, created_at from contacts where id = $1", [id]);
  const rows = await septima.db.query<
    Omit<Happening, "at" | "campaign"> & { at: Date; campaign: string | null; name: string | null }
  >(
    `select h.*, c.name from (
       select 'sent' as kind, r.changed_at as at, d.campaign_id as campaign, r.state as how, r.trouble,
           case when r.edition is not null and r.handed_at is not null then d.id end as dispatch
         from recipients r join dispatches d on d.id = r.dispatch_id where r.contact_id = $1
       union all select case e.kind when 1 then 'sent' when 2 then 'opened' else 'clicked' end, e.at, c.id,
           case when e.kind = 1 then 'accepted' else coalesce(p.address, '') end, null, null
         from events e left join campaigns c on c.number = e.campaign left join places p on p.id = e.place
         where e.contact_id = $1 and (e.kind in (2, 3) or e.kind = 1 and not exists (
           select 1 from recipients r join dispatches d on d.id = r.dispatch_id
           where r.contact_id = $1 and d.campaign_id = c.id))
       union all select 'bought', o.at, null, coalesce((select string_agg(l.name, ', ' order by l.line)
           from order_lines l where l.order_id = o.id), o.number), null, null from orders o where o.contact_id = $1
       union all select 'unsubscribed', u.at, u.campaign_id, u.way, null, null from unsubscribes u where u.contact_id = $1
       union all select 'chose', ch.at, ch.campaign_id, case ch.what when 'subscribed' then 'Subscribed again'
           when 'joined' then 'Joined ' || coalesce(l.name, 'a list') else 'Left ' || coalesce(l.name, 'a list') end, ch.way, null
         from choices ch left join lists l on l.id = ch.list_id where ch.contact_id = $1
       union all select 'suppressed', s.at, null, s.kind, s.words, null from suppressions s where s.contact_id = $1
       union all select 'lifted', s.lifted_at, null, '', s.lifted_way, null from suppressions s
         where s.contact_id = $1 and s.lifted_at is not null
       union all select 'answered', a.answered_at, a.campaign_id, a.answer::text, null, null from answers a where a.contact_id = $1
     ) h left join campaigns c on c.id = h.campaign
     order by h.at desc, h.kind limit ${MOST}`,
    [id],
  );
  return {
    contact,
    status,
    since: created_at.toISOString(),
    history: rows.map(({ at, campaign, name, ...row }) => ({
      ...row,
      at: at.toISOString(),
      campaign: campaign !== null && name !== null ? { id: campaign, name } : null,
    })),
    drafts: status === "subscribed" ? await draftsFor(septima, id) : [],
  };
}

/** The drafts that a contact would get as things are. */
async function draftsFor(septima: Septima, id: number): Promise<{ id: string; name: string }[]> {
  const rows = await septima.db.query<{ id: string; name: string; readers: unknown }>(
    `select c.id, c.name, c.readers from campaigns c
     where c.kind = 'campaign' and c.deleted_at is null and c.archived_at is null
       and jsonb_array_length(c.readers -> 'include') > 0
       and not exists (select 1 from dispatches d where d.campaign_id = c.id and d.state <> 'cancelled')
     order by c.updated_at desc limit ${DRAFTS}`,
  );
  const found: { id: string; name: string }[] = [];
  for (const { readers, ...draft } of rows) {
    try {
      if ((await selectedReaders(septima, SelectionSchema.parse(readers))).readers.has(id)) found.push(draft);
    } catch (error) {
      // Who gets a draft with a broken selection cannot be said here; the draft itself says so.
      if (!(error instanceof RuleError)) throw error;
    }
  }
  return found;
}

/** What a contact's page may change. */
export interface ContactChange {
  email: string;
  /** By the keys of fields; null takes a value away. What is not named stays. */
  fields: Readonly<Record<string, unknown>>;
  lists: readonly string[];
}

/**
 * Changes a contact, all or nothing.
 * @throws Refusal that names the field and what it should be; 409 when somebody else has the address; 404 when gone
 */
export async function changeContact(septima: Septima, id: number, change: ContactChange): Promise<void> {
  const email = change.email.trim();
  if (!isAddress(email))
    throw new Refusal(`“${email}” is not an address. It should look like name@domain.example.`);
  const defs = (await fieldsOf(septima)).filter(({ key }) => key !== "email");
  const fields = readFields(defs, change.fields);
  await septima.db.transaction(async (tx) => {
    const [other] = await tx.query("select 1 from contacts where lower(email) = lower($1) and id <> $2", [
      email,
      id,
    ]);
    if (other) throw new Refusal(`${email} belongs to another contact already.`, 409);
    const changed = await tx.query(
      `update contacts set email = $2, fields = jsonb_strip_nulls(fields || $3::jsonb), edited_at = $4
       where id = $1 returning id`,
      [id, email, JSON.stringify(fields), new Date(septima.now())],
    );
    if (changed.length === 0) throw new Refusal("This contact does not exist any more.", 404);
    await tx.query("delete from list_members where contact_id = $1 and list_id <> all ($2::text[])", [
      id,
      change.lists,
    ]);
    await tx.query(
      `insert into list_members (list_id, contact_id) select l.id, $1 from lists l where l.id = any ($2::text[])
       on conflict do nothing`,
      [id, change.lists],
    );
  });
  audienceChanged(septima);
}

function readFields(defs: readonly FieldDef[], given: Readonly<Record<string, unknown>>) {
  return Object.fromEntries(
    Object.entries(given).map(([key, raw]) => {
      const def = defs.find((one) => one.key === key);
      if (!def) throw new Refusal(`There is no field “${key}”.`);
      const read = givenValue(def, raw);
      if ("problem" in read) throw new Refusal(`“${def.label}” ${read.problem}.`);
      return [key, read.value];
    }),
  );
}
