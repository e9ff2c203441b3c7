/** What contacts did and were sent: adding to it, and reading it for a few of them. */
import { EVENT_KINDS, type EventKind, type History } from "~/core/audience";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";

/** Something that happened: to whom, when, with which campaign, and with what in it. */
export interface Event {
  what: EventKind;
  contact: number;
  at: Date;
  campaign: string;
  place?: { block: string; address: string | null };
  /** Which of the editions of the sending they got. */
  edition?: number | null;
  /** Whether it was a program that looks at messages ahead of people: it is kept apart. */
  byMachine?: boolean;
}

/** What programs did has kinds of its own, so many further on. */
const BY_MACHINE = 10;

/** Adds events. Those whose campaign is unknown are left out. */
export async function addEvents(db: Queries, events: readonly Event[]): Promise<void> {
  if (events.length === 0) return;
  const rows = JSON.stringify(
    events.map(({ what, contact, at, campaign, place, edition = null, byMachine }) => ({
      kind: EVENT_KINDS[what] + (byMachine ? BY_MACHINE : 0),
      edition,
      contact,
      at: at.toISOString(),
      campaign,
      block: place?.block ?? null,
      address: place?.address ?? null,
    })),
  );
  const placed = events.some(({ place }) => place);
  if (placed)
    await db.query(
      `insert into places (campaign, block, address)
       select distinct c.number, it.block, it.address
       from jsonb_to_recordset($1::jsonb) as it(campaign text, block text, address text)
       join campaigns c on c.id = it.campaign where it.block is not null
       on conflict do nothing`,
      [rows],
    );
  await db.query(
    `insert into events (at, contact_id, campaign, place, kind, edition)
     select it.at, it.contact, c.number, ${placed ? "p.id" : "null"}, it.kind, it.edition
     from jsonb_to_recordset($1::jsonb)
       as it(kind smallint, contact integer, at timestamptz, campaign text, block text, address text, edition smallint)
     join campaigns c on c.id = it.campaign
     ${placed ? "left join places p on p.campaign = c.number and p.block = it.block and p.address is not distinct from it.address" : ""}`,
    [rows],
  );
}

const NAMES = new Map<number, EventKind>(
  Object.entries(EVENT_KINDS).map(([what, kind]) => [kind, what as EventKind]),
);

/** So many of the newest events of one contact are looked at. */
const MOST_EVENTS = 5000;

/** The histories of contacts, by their numbers; everybody has one. */
export async function historiesOf(db: Queries, ids: readonly number[]): Promise<Map<number, History>> {
  const found = new Map<number, { events: History["events"][number][]; orders: History["orders"][number][] }>(
    ids.map((id) => [id, { events: [], orders: [] }]),
  );
  if (ids.length === 0) return found;
  const events = await db.query<{
    contact_id: number;
    kind: number;
    at: number;
    campaign: string | null;
    address: string | null;
  }>(
    `select i.id as contact_id, e.kind, (extract(epoch from e.at) * 1000)::float8 as at, c.id as campaign, p.address
     from unnest($1::int[]) i(id)
     cross join lateral (select * from events where contact_id = i.id order by at desc limit ${MOST_EVENTS}) e
     left join campaigns c on c.number = e.campaign left join places p on p.id = e.place
     order by i.id, e.at desc, e.kind, e.campaign, e.place`,
    [ids],
  );
  for (const { contact_id, kind, at, campaign, address } of events) {
    const what = NAMES.get(kind);
    if (what)
      found.get(contact_id)?.events.push({
        what,
        at: Math.round(at),
        campaign: campaign ?? "",
        ...(address !== null && { address }),
      });
  }
  const orders = await db.query<{
    contact_id: number;
    at: number;
    lines: { product: string; category: string }[];
  }>(
    `select o.contact_id, (extract(epoch from o.at) * 1000)::float8 as at,
       coalesce((select jsonb_agg(jsonb_build_object('product', l.product, 'category', l.category) order by l.line)
         from order_lines l where l.order_id = o.id), '[]') as lines
     from orders o where o.contact_id = any ($1::int[]) order by o.contact_id, o.at desc, o.id`,
    [ids],
  );
  for (const { contact_id, at, lines } of orders)
    found.get(contact_id)?.orders.push({ at: Math.round(at), lines });
  return found;
}

/** What a rule on behaviour may name. */
export interface BehaviourNames {
  campaigns: { id: string; name: string }[];
  products: { id: string; name: string }[];
  categories: string[];
  links: string[];
}

/** So many of each are offered. */
const MOST_NAMES = 500;

/** What was bought. Passing all orders takes a while: it is asked again when there is a newer one. */
async function bought(septima: Septima): Promise<Pick<BehaviourNames, "products" | "categories">> {
  const { db, cache } = septima;
  const [{ newest }] = await db.query<{ newest: number | null }>("select max(id) as newest from orders");
  type Bought = Awaited<ReturnType<typeof bought>> & { newest: number | null };
  const known = cache.get("bought") as Bought | undefined;
  if (known?.newest === newest) return known;
  const products = await db.query<{ id: string; name: string }>(
    `select product as id, max(name) as name from order_lines group by product order by 2 limit ${MOST_NAMES}`,
  );
  const categories = await db.query<{ category: string }>(
    `select distinct category from order_lines where category <> '' order by 1 limit ${MOST_NAMES}`,
  );
  const found: Bought = { newest, products, categories: categories.map(({ category }) => category) };
  cache.set("bought", found);
  return found;
}

/** The campaigns that were sent, what was bought, and the links that were clicked. */
export async function behaviourNames(septima: Septima): Promise<BehaviourNames> {
  const { db } = septima;
  const [campaigns, { products, categories }, links] = await Promise.all([
    db.query<{ id: string; name: string }>(
      `select c.id, c.name from campaigns c where c.kind = 'campaign' and c.deleted_at is null
         and exists (select 1 from dispatches d where d.campaign_id = c.id and d.state <> 'cancelled')
       order by c.updated_at desc limit ${MOST_NAMES}`,
    ),
    bought(septima),
    db.query<{ address: string }>(
      `select address from places where address is not null group by address order by max(id) desc limit ${MOST_NAMES}`,
    ),
  ]);
  return {
    campaigns,
    products,
    categories,
    links: links.map(({ address }) => address).sort(),
  };
}
