/** What readers bought and looked at, and what changed of items, as recommendations look at it. */
import type { ItemNews, Market, Past } from "~/core/picking";
import type { Queries } from "../db/database";
import { cached, type Septima } from "../septima";

/** So far back anybody looks, in days. */
const FARTHEST = 400;
/** So many of the newest of each reader are looked at. */
const MOST = 500;

const DAY = (column: string) => `floor(extract(epoch from ${column}) / 86400)::int`;
const sinceOf = (septima: Septima) => new Date(septima.now() - FARTHEST * 86_400_000);

/** Columns as the database puts them together: one row, however many there are. */
interface Columns {
  item: number[] | null;
  reader: number[] | null;
  order: number[] | null;
  day: number[] | null;
  ids: string[] | null;
}

/**
 * What all readers bought in the last 400 days, and what they have in some of their fields. Worked out again when there
 * is a newer order.
 */
export async function marketNow(septima: Septima, fields: readonly string[]): Promise<Market> {
  const [{ state }] = await septima.db.query<{ state: string }>(
    "select concat_ws(' ', max(id), count(*), max(at)) as state from orders",
  );
  const sales = await cached(
    septima,
    `sales ${state} ${Math.floor(septima.now() / 86_400_000)}`,
    async () => {
      const [row] = await septima.db.query<Columns>(
        `with sold as materialized (
         select l.product, o.contact_id, o.id, ${DAY("o.at")} as day
         from orders o join order_lines l on l.order_id = o.id where o.at >= $1),
       named as (select product, row_number() over (order by product) - 1 as n from (select distinct product from sold) p)
       select (select array_agg(product order by n) from named) as ids, array_agg(n::int) as item,
         array_agg(contact_id) as reader, array_agg(id) as "order", array_agg(day) as day
       from sold join named using (product)`,
        [sinceOf(septima)],
      );
      const column = (all: number[] | null) => Int32Array.from(all ?? []);
      return {
        item: column(row.item),
        reader: column(row.reader),
        order: column(row.order),
        day: column(row.day),
        ids: row.ids ?? [],
      };
    },
  );
  const groups = new Map<string, Map<number, string>>();
  for (const field of new Set(fields)) {
    const rows = await septima.db.query<{ id: number; value: string }>(
      `select c.id, c.fields ->> $1 as value from contacts c
       where c.fields ? $1 and exists (select 1 from orders o where o.contact_id = c.id)`,
      [field],
    );
    groups.set(field, new Map(rows.map(({ id, value }) => [id, value])));
  }
  return { sales, groups };
}

/** What these readers bought and looked at, the newest first. */
export async function pastsOf(
  septima: Septima,
  db: Queries,
  readers: readonly number[],
): Promise<Map<number, Past>> {
  const since = sinceOf(septima);
  const bought = await db.query<{ reader: number; item: string; name: string; day: number }>(
    `select reader, item, name, day from unnest($1::int[]) as reader cross join lateral (
       select l.product as item, l.name, ${DAY("o.at")} as day, o.at, l.line from orders o
       join order_lines l on l.order_id = o.id
       where o.contact_id = reader and o.at >= $2 order by o.at desc, o.id desc, l.line limit ${MOST}
     ) did order by reader, at desc, line`,
    [readers, since],
  );
  const viewed = await db.query<{ reader: number; item: string; day: number }>(
    `select reader, item, day from unnest($1::int[]) as reader cross join lateral (
       select item, ${DAY("at")} as day, at from deeds
       where contact_id = reader and at >= $2 and what = 'viewed' and item is not null
       order by at desc, item limit ${MOST}
     ) did order by reader, at desc, item`,
    [readers, since],
  );
  const pasts = new Map<number, { bought: Past["bought"][number][]; viewed: Past["viewed"][number][] }>(
    readers.map((reader) => [reader, { bought: [], viewed: [] }]),
  );
  for (const { reader, ...did } of bought) pasts.get(reader)?.bought.push(did);
  for (const { reader, ...did } of viewed) pasts.get(reader)?.viewed.push(did);
  return pasts;
}

/** What came back or costs less than before, of the items of a source. */
export async function newsOf(septima: Septima, source: string): Promise<ItemNews[]> {
  return septima.db.query<ItemNews>(
    `select item, case when what = 'price' then 'dropped' else 'back' end as what, ${DAY("at")} as day
     from item_changes where source = $1 and at >= $2 and (
       what = 'back' or (what = 'stock' and (was #>> '{}')::int = 0 and coalesce((is_now #>> '{}')::int, 1) > 0)
       or (what = 'price' and coalesce((is_now ->> 'sale')::float8, (is_now ->> 'price')::float8)
         < coalesce((was ->> 'sale')::float8, (was ->> 'price')::float8)))
     order by at desc, item`,
    [source, sinceOf(septima)],
  );
}
