/** A year of what the demo's contacts were sent, did and bought. Worked out from their numbers alone, so always the same. */
import { addDays, EVENT_KINDS, type Rule, toSql } from "~/core/audience";
import { audienceContext } from "~/server/audience/groups";
import { knock } from "~/server/door/door";
import { makeKey } from "~/server/door/keys";
import type { Septima } from "~/server/septima";
import { type Customer, type Door, tellOfAYear } from "~/standins/shop/trade";
import { keepShopKey } from "./shop-life";

/**
 * Records a dispatch that ended at a moment to those of the letter's list who had joined by then.
 * @param rows whether with a row for each recipient, as long as they are kept, or only with its numbers
 */
export async function addSent(septima: Septima, campaignId: string, at: Date, rows: boolean): Promise<void> {
  const id = septima.newId();
  const { db } = septima;
  const day = at.toISOString().slice(0, 10);
  await db.query("update campaigns set updated_at = $2, created_at = $2 where id = $1", [campaignId, at]);
  await db.query(
    `with booking as (
       insert into bookings (id, campaign_id, readers, zone, confirmed, created_at)
       select $1, id, readers, 'Europe/London', 0, $3 from campaigns where id = $2 returning id)
     insert into dispatches (id, booking_id, campaign_id, state, email, readers, gathered_at, created_at, started_at, finished_at)
     select $1, b.id, c.id, 'sent', c.email, c.readers, $3, $3, $3, $4 from campaigns c, booking b where c.id = $2`,
    [id, campaignId, at, new Date(at.getTime() + 95_000)],
  );
  await db.query(
    `insert into mentions (holder, which, kind, key) select distinct 'dispatch', $1, kind, key from mentions
     where holder in ('design', 'readers') and which = $2`,
    [id, campaignId],
  );
  const READERS = `from contacts c join list_members m on m.contact_id = c.id and m.list_id = 'letter'
    where c.fields ->> 'joined' < $1`;
  if (rows)
    await db.query(
      `insert into recipients (dispatch_id, contact_id, state, message_id, attempts, changed_at)
       select $2, c.id, case when c.status = 'bounced' then 'failed' else 'accepted' end,
         $2 || '.' || c.id || '@tansyrow.example', 1, $3 ${READERS}`,
      [day, id, at],
    );
  await db.query(
    `insert into events (at, contact_id, campaign, kind)
     select $2, c.id, (select number from campaigns where id = $3), ${EVENT_KINDS.sent} ${READERS} and c.status <> 'bounced'`,
    [day, at, campaignId],
  );
  await db.query(
    `update dispatches set total = (select count(*) ${READERS}),
       accepted = (select count(*) ${READERS} and c.status <> 'bounced') where id = $2`,
    [day, id],
  );
}

/** What readers did with what they were sent: a quarter open most, a quarter hardly any; one open in five has a click. */
export async function addReactions(septima: Septima, links: readonly string[]): Promise<void> {
  const { db } = septima;
  await db.query(
    `insert into places (campaign, block, address)
     select distinct campaign, 'b' || position, address
     from (select distinct campaign from events) e, unnest($1::text[]) with ordinality as l(address, position)`,
    [links],
  );
  // Most open within hours, a few after days. The same contact opens the same campaigns whenever the demo is made.
  await db.query(
    `insert into events (at, contact_id, campaign, kind)
     select at + ((contact_id * 37 + campaign * 11) % 97) * ((contact_id + campaign) % 61) * interval '1 minute',
       contact_id, campaign, ${EVENT_KINDS.opened}
     from events where kind = ${EVENT_KINDS.sent}
       and (contact_id * 7919 + campaign * 10473) % 1000 < (array[720, 330, 290, 25])[1 + (contact_id * 13) % 4]
     order by 1`,
  );
  await db.query(
    `insert into events (at, contact_id, campaign, place, kind)
     select e.at + interval '2 minutes', e.contact_id, e.campaign, p.id, ${EVENT_KINDS.clicked}
     from events e join places p on p.campaign = e.campaign
       and p.block = 'b' || (1 + (e.contact_id * 3 + e.campaign) % $1::int)
     where e.kind = ${EVENT_KINDS.opened} and (e.contact_id * 61 + e.campaign * 17) % 5 = 0
     order by 1`,
    [links.length],
  );
}

/**
 * The year of the shop, through the door that is open to other systems: with a key of its own, and in nothing else than
 * batches.
 */
export async function addTrade(septima: Septima): Promise<void> {
  const customers = await septima.db.query<Customer>(
    `select id as number, email, (fields ->> 'orders')::int as orders, fields ->> 'last_order' as "lastOrder"
     from contacts where fields ? 'last_order' order by id`,
  );
  const key = await makeKey(septima, { name: "Shop", may: ["orders", "events"], most: 6000 });
  const door: Door = async (purpose, body) => {
    const { status, body: said } = await knock(septima, purpose, `Bearer ${key}`, JSON.stringify(body));
    if (status !== 200) throw new Error(`The door took no ${purpose}: ${said.problem}`);
    if (said.left.length > 0) throw new Error(`The door left out ${purpose}: ${said.left[0].says}`);
  };
  await tellOfAYear(customers, door, septima.now());
  await keepShopKey(septima, key);
}

/** How a list or segment grew, week by week: of those who are in it now, who had joined by then. */
export async function addSizes(septima: Septima, kind: string, id: string, rule: Rule): Promise<void> {
  const { db } = septima;
  const context = await audienceContext(septima);
  const condition = toSql(rule, context);
  const joined = await db.query<{ day: string; count: number }>(
    `select c.fields ->> 'joined' as day, count(*)::int as count from contacts c
     where c.status = 'subscribed' and ${condition.sql} group by 1`,
    condition.params,
  );
  const sizes = Array.from({ length: 53 }, (_, week) => {
    const day = addDays(context.today, 7 * week - 364);
    return { day, size: joined.reduce((sum, one) => sum + (one.day <= day ? one.count : 0), 0) };
  });
  await db.query(
    `insert into group_sizes (kind, group_id, day, size)
     select $1, $2, day, size from jsonb_to_recordset($3::jsonb) as r(day date, size integer) on conflict do nothing`,
    [kind, id, JSON.stringify(sizes)],
  );
}
