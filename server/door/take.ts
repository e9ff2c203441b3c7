/** What is done with what other systems say. Each within the transaction that remembers the batch. */
import { type FieldDef, type FieldValue, isDay } from "~/core/audience";
import { type Item, itemOf } from "~/core/items";
import { alterContacts, changeable } from "../audience/changing";
import { endSubscriptions } from "../audience/choices";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";
import { putIntoBatches } from "../sources/codes";
import { putSome } from "../sources/store";
import type {
  CodeEntry,
  ContactEntry,
  EventEntry,
  ItemEntry,
  OrderEntry,
  Purpose,
  UnsubscribeEntry,
  Wrong,
} from "./shapes";

/** Who says it, and with which world it is done. */
interface Taking {
  septima: Septima;
  tx: Queries;
  key: { id: string; name: string };
  /** All that contacts may have. */
  fields: readonly FieldDef[];
}

type Take<E> = (taking: Taking, entries: readonly E[]) => Promise<Wrong[]>;

const left = (at: number, says: string, path = ""): Wrong => ({ at: `entries/${at}${path}`, says });
const NOBODY = "Nobody here has this address.";

/** Whom entries are about: the number of each by its address, and those that are about nobody here. */
async function peopleIn(
  tx: Queries,
  entries: readonly { email: string }[],
): Promise<{ of(email: string): number | undefined; all: number[]; nobody: Wrong[] }> {
  const rows = await tx.query<{ id: number; email: string }>(
    "select id, lower(email) as email from contacts where lower(email) = any($1)",
    [[...new Set(entries.map(({ email }) => email.toLowerCase()))]],
  );
  const known = new Map(rows.map(({ id, email }) => [email, id]));
  const of = (email: string) => known.get(email.toLowerCase());
  return {
    of,
    all: [...known.values()],
    nobody: entries.flatMap(({ email }, at) => (of(email) === undefined ? [left(at, NOBODY)] : [])),
  };
}

/** Why a value does not fit a field; null when it does. */
function misfit(def: FieldDef | undefined, value: FieldValue): string | null {
  if (!def || def.key === "email") return "There is no such field.";
  if (value === null) return null;
  const { kind, options } = def;
  const says = (fits: boolean, wanted: string) => (fits ? null : `${def.label} is ${wanted}.`);
  const among = (one: unknown) => !options || options.some((option) => option.value === one);
  switch (kind) {
    case "number":
    case "money":
      return says(typeof value === "number", "a number");
    case "boolean":
      return says(typeof value === "boolean", "true or false");
    case "date":
      return says(typeof value === "string" && isDay(value), "a day, as 2026-03-02");
    case "set":
      return says(Array.isArray(value) && value.every(among), "a list of words there are");
    case "text":
      return says(typeof value === "string", "text");
    case "choice":
    case "record":
      return says(typeof value === "string" && among(value), "one of its values");
  }
}

const contacts: Take<ContactEntry> = async ({ septima, tx, key, fields: known }, entries) => {
  const defs = new Map(known.map((def) => [def.key, def]));
  const lists = new Set(
    (await tx.query<{ id: string }>("select id from lists where deleted_at is null")).map(({ id }) => id),
  );
  const wrong: Wrong[] = [];
  const fit = entries.filter(({ fields = {}, join = [], leave = [] }, at) => {
    const before = wrong.length;
    for (const [field, value] of Object.entries(fields)) {
      const says = misfit(defs.get(field), value);
      if (says) wrong.push(left(at, says, `/fields/${field}`));
    }
    for (const [name, named] of Object.entries({ join, leave }))
      for (const [index, list] of named.entries())
        if (!lists.has(list)) wrong.push(left(at, "There is no such list.", `/${name}/${index}`));
    return wrong.length === before;
  });
  const at = new Date(septima.now());
  // Who is new says how they came.
  const origin = { consent_source: key.name, consent_date: at.toISOString().slice(0, 10) };
  await tx.query(
    `insert into contacts (email, fields, created_at)
     select email, $2::jsonb, $3 from unnest($1::text[]) email order by lower(email) on conflict do nothing`,
    [[...new Set(fit.map(({ email }) => email))], JSON.stringify(origin), at],
  );
  const addresses = [...new Set(fit.map(({ email }) => email.toLowerCase()))];
  // In the order of their numbers, as everywhere: two batches about the same people do not wait for each other.
  await tx.query("select 1 from contacts where lower(email) = any($1) order by id for update", [addresses]);
  const found = new Map(
    (await changeable(tx, "lower(email) = any($1)", [addresses])).map((it) => [it.email.toLowerCase(), it]),
  );
  // Of one who is named twice the later counts where both speak of the same.
  const wanted = new Map<
    string,
    { fields: Record<string, FieldValue>; join: Set<string>; leave: Set<string> }
  >();
  for (const { email, fields = {}, join = [], leave = [] } of fit) {
    const all = wanted.get(email.toLowerCase()) ?? { fields: {}, join: new Set(), leave: new Set() };
    wanted.set(email.toLowerCase(), all);
    Object.assign(all.fields, fields);
    for (const list of join) {
      all.join.add(list);
      all.leave.delete(list);
    }
    for (const list of leave) {
      all.leave.add(list);
      all.join.delete(list);
    }
  }
  await alterContacts(
    tx,
    [...wanted].flatMap(([email, { fields, join, leave }]) => {
      const contact = found.get(email);
      return contact ? [{ contact, wanted: { fields, join: [...join], leave: [...leave] } }] : [];
    }),
  );
  return wrong;
};

const unsubscribes: Take<UnsubscribeEntry> = async ({ septima, tx }, entries) => {
  const people = await peopleIn(tx, entries);
  const at = new Date(septima.now());
  await endSubscriptions(tx, people.all, { campaign: null, way: "door", at });
  return people.nobody;
};

const events: Take<EventEntry> = async ({ septima, tx }, entries) => {
  const people = await peopleIn(tx, entries);
  const now = new Date(septima.now()).toISOString();
  const rows = entries.flatMap(({ email, what, item, at = now }) => {
    const contact = people.of(email);
    return contact === undefined ? [] : [{ contact, what, item: item ?? null, at }];
  });
  if (rows.length > 0)
    await tx.query(
      `insert into deeds (contact_id, at, what, item)
       select contact, at, what, item
       from jsonb_to_recordset($1::jsonb) as r(contact integer, at timestamptz, what text, item text)`,
      [JSON.stringify(rows)],
    );
  return people.nobody;
};

/** How many of the smallest units of a currency one has, as a power of ten. */
const digitsOf = (currency: string) =>
  new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;

const orders: Take<OrderEntry> = async ({ septima, tx }, entries) => {
  const people = await peopleIn(tx, entries);
  const now = new Date(septima.now()).toISOString();
  const rows = new Map<string, object>();
  for (const { number, email, at = now, currency, lines } of entries) {
    const contact = people.of(email);
    if (contact === undefined) continue;
    const unit = 10 ** digitsOf(currency);
    const priced = lines.map(({ price, ...line }) => ({ ...line, price: Math.round(price * unit) }));
    const total = priced.reduce((sum, { quantity, price }) => sum + quantity * price, 0);
    rows.set(number, { number, contact, at, currency, total, lines: priced });
  }
  if (rows.size > 0)
    await tx.query(
      `with given as materialized (
         select * from jsonb_to_recordset($1::jsonb)
           as r(number text, contact integer, at timestamptz, currency text, total bigint, lines jsonb) order by number),
       kept as (
         insert into orders (number, contact_id, at, currency, total)
         select number, contact, at, currency, total from given
         on conflict (number) do update set
           contact_id = excluded.contact_id, at = excluded.at, currency = excluded.currency, total = excluded.total
         returning id, number),
       before as (
         delete from order_lines l using kept where l.order_id = kept.id
           and l.line > (select jsonb_array_length(lines) from given where given.number = kept.number))
       insert into order_lines (order_id, line, product, name, category, quantity, price)
       select kept.id, n, line ->> 'item', line ->> 'name', coalesce(line ->> 'category', ''),
         (line ->> 'quantity')::integer, (line ->> 'price')::bigint
       from given join kept using (number), jsonb_array_elements(lines) with ordinality as it (line, n)
       on conflict (order_id, line) do update set product = excluded.product, name = excluded.name,
         category = excluded.category, quantity = excluded.quantity, price = excluded.price`,
      [JSON.stringify([...rows.values()])],
    );
  return people.nobody;
};

/** The catalogue of a key; made when it first speaks of an item. */
async function catalogueOf({ septima, tx, key }: Taking): Promise<string> {
  const found = "select id from sources where door_key = $1 and deleted_at is null for update";
  const [known] = await tx.query<{ id: string }>(found, [key.id]);
  if (known) return known.id;
  await tx.query(
    `insert into sources (id, name, kind, address, format, every, door_key, created_at)
     values ($1, $2, 'catalogue', '', 'json', null, $3, $4)
     on conflict (door_key) where deleted_at is null do nothing`,
    [septima.newId(), key.name, key.id, new Date(septima.now())],
  );
  return (await tx.query<{ id: string }>(found, [key.id]))[0].id;
}

/** A moment in UTC; a day stays one. */
const inUtc = (date: string) => (isDay(date) ? date : new Date(date).toISOString());

function itemFrom({ gone: _, date, ...entry }: ItemEntry): Item {
  return itemOf({ ...entry, date: date === undefined ? null : inUtc(date) });
}

const items: Take<ItemEntry> = async (taking, entries) => {
  const { septima, tx } = taking;
  const source = await catalogueOf(taking);
  // Of one that is named twice the later counts.
  const last = new Map(entries.map((entry) => [entry.id, entry]));
  const all = [...last.values()];
  await putSome(
    tx,
    source,
    septima.newId(),
    all.filter(({ gone }) => !gone).map(itemFrom),
    all.filter(({ gone }) => gone).map(({ id }) => id),
    new Date(septima.now()),
  );
  return [];
};

const codes: Take<CodeEntry> = async ({ tx }, entries) => {
  const byList = new Map<string, string[]>();
  for (const { list, code } of entries) byList.set(list, [...(byList.get(list) ?? []), code]);
  const unknown = await putIntoBatches(tx, byList);
  return entries.flatMap(({ list }, at) =>
    unknown.has(list) ? [left(at, "There is no such batch of codes.", "/list")] : [],
  );
};

/** By the purpose: takes entries. @returns those that were not taken, and why */
export const TAKES: Record<Purpose, Take<never>> = { contacts, unsubscribes, events, orders, items, codes };
