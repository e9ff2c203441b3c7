/** Items in the database: a reading is taken in piece by piece, and takes the place of the one before all at once. */
import { createReadStream } from "node:fs";
import { createInterface } from "node:readline";
import { z } from "zod";
import { foundBy, type Item } from "~/core/items";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";

/** What may be seen to change of an item. */
export const CHANGES = ["new", "gone", "back", "price", "stock"] as const;
export type Change = (typeof CHANGES)[number];

export const ChangesSchema = z.record(z.enum(CHANGES), z.number());
/** How many items a reading found changed, of each kind. */
export type Changes = z.infer<typeof ChangesSchema>;

/** So many items are taken in at a time. */
const BATCH = 1000;
/** What is gone is kept so long, as is what is known of its price, in milliseconds. */
const GONE_FOR = 90 * 86_400_000;
const KNOWN_FOR = 400 * 86_400_000;

/** Takes in the items of a file that `readDocument` wrote, under the name of a reading. Nothing else sees them yet. */
export async function takeIn(septima: Septima, reading: string, file: string): Promise<void> {
  let place = 0;
  let lines: string[] = [];
  const flush = async () => {
    if (lines.length === 0) return;
    // As they were written: the database reads them anyhow.
    await septima.db.query(
      `insert into items_read (reading, place, id, item, words)
       select $1, $2 + n::integer, it ->> 0, it -> 1, it ->> 2
       from jsonb_array_elements($3::jsonb) with ordinality as read (it, n)`,
      [reading, place, `[${lines.join(",")}]`],
    );
    place += lines.length;
    lines = [];
  };
  for await (const line of createInterface({
    input: createReadStream(file),
    crlfDelay: Number.POSITIVE_INFINITY,
  })) {
    lines.push(line);
    if (lines.length >= BATCH) await flush();
  }
  await flush();
}

/** Forgets what was taken in. */
export async function forgetReading(septima: Septima, reading: string): Promise<void> {
  await septima.db.query("delete from items_read where reading = $1", [reading]);
}

const COSTS = "coalesce((r.item ->> 'sale')::double precision, (r.item ->> 'price')::double precision)";

/**
 * Makes what was taken in what a source holds, and writes down what has changed.
 * @param how `first` of the first reading, of which nothing is a change; `whole` of one that says all there is, `some`
 *   of one that leaves what it does not name as it is
 */
export async function putInPlace(
  tx: Queries,
  source: string,
  reading: string,
  at: Date,
  how: "first" | "whole" | "some",
): Promise<Changes> {
  const first = how === "first";
  const missing =
    how === "some"
      ? "exists (select 1 from items_read r where r.reading = $2 || ' gone' and r.id = i.id)"
      : "not exists (select 1 from items_read r where r.reading = $2 and r.id = i.id)";
  if (how === "whole") await keepIdentity(tx, source, reading);
  const changes: Changes = { new: 0, gone: 0, back: 0, price: 0, stock: 0 };
  const note = async (what: keyof Changes, sql: string) => {
    const [{ count }] = await tx.query<{ count: string }>(
      `with changed as (insert into item_changes (source, item, at, what, was, is_now) ${sql} returning 1)
       select count(*) from changed`,
      [source, reading, at],
    );
    changes[what] = Number(count);
  };
  const both = "from items_read r join items i on i.source = $1 and i.id = r.id where r.reading = $2";
  if (!first) {
    await note(
      "new",
      `select $1, r.id, $3::timestamptz, 'new', null, null from items_read r where r.reading = $2
         and not exists (select 1 from items i where i.source = $1 and i.id = r.id)`,
    );
    await note(
      "back",
      `select $1, r.id, $3::timestamptz, 'back', null, null ${both} and i.gone_at is not null`,
    );
    await note(
      "gone",
      `select $1, i.id, $3::timestamptz, 'gone', null, null from items i where i.source = $1 and i.gone_at is null
         and ${missing}`,
    );
    const sum = (of: string) =>
      `jsonb_strip_nulls(jsonb_build_object('price', ${of} -> 'price', 'sale', ${of} -> 'sale', 'currency', ${of} -> 'currency'))`;
    await note(
      "price",
      `select $1, r.id, $3::timestamptz, 'price', ${sum("i.item")}, ${sum("r.item")} ${both}
         and (i.item -> 'price' is distinct from r.item -> 'price' or i.item -> 'sale' is distinct from r.item -> 'sale')`,
    );
    await note(
      "stock",
      `select $1, r.id, $3::timestamptz, 'stock', i.item -> 'stock', r.item -> 'stock' ${both}
         and i.item -> 'stock' is distinct from r.item -> 'stock'`,
    );
  }
  await tx.query(`update items i set gone_at = $3 where source = $1 and gone_at is null and ${missing}`, [
    source,
    reading,
    at,
  ]);
  // What is read later was seen later, whatever the clock says: by that it is told what is new.
  await tx.query(
    `insert into items (source, id, place, item, words, title, at, costs, saving, stock, category, seen_first)
     select $1, r.id, r.place, r.item, array_to_tsvector(string_to_array(r.words, ' ')), r.item ->> 'title', r.item ->> 'date', ${COSTS},
       case when (r.item ->> 'price')::double precision > 0 and r.item ? 'sale'
         then 1 - (r.item ->> 'sale')::double precision / (r.item ->> 'price')::double precision else 0 end,
       (r.item ->> 'stock')::integer, array(select jsonb_array_elements_text(r.item -> 'category')), seen.now
     from (select greatest($3::timestamptz, max(seen_first) + interval '1 millisecond') as now from items where source = $1) seen
     cross join items_read r left join items i on i.source = $1 and i.id = r.id
     where r.reading = $2 and (i.id is null or i.gone_at is not null or i.item is distinct from r.item)
     on conflict (source, id) do update set
       place = excluded.place, item = excluded.item, words = excluded.words, title = excluded.title, at = excluded.at,
       costs = excluded.costs, saving = excluded.saving, stock = excluded.stock, category = excluded.category,
       size = case when items.item -> 'picture' = excluded.item -> 'picture' then items.size end, gone_at = null`,
    [source, reading, at],
  );
  await tx.query(
    `update items i set place = r.place from items_read r
     where i.source = $1 and r.reading = $2 and r.id = i.id and i.place <> r.place`,
    [source, reading],
  );
  await tx.query("delete from items_read where reading = any($1)", [[reading, `${reading} gone`]]);
  await tx.query("delete from items where source = $1 and gone_at < $2", [
    source,
    new Date(at.getTime() - GONE_FOR),
  ]);
  await tx.query("delete from item_changes where source = $1 and at < $2", [
    source,
    new Date(at.getTime() - KNOWN_FOR),
  ]);
  return changes;
}

/**
 * Adds items to what a source holds, or changes or ends them; the others stay.
 * @param gone the ids of those that are there no more
 */
export async function putSome(
  tx: Queries,
  source: string,
  reading: string,
  items: readonly Item[],
  gone: readonly string[],
  at: Date,
): Promise<void> {
  await tx.query(
    `insert into items_read (reading, place, id, item, words)
     select $1, coalesce(i.place, (select coalesce(max(place), 0) from items where source = $3) + n::integer),
       it -> 'item' ->> 'id', it -> 'item', it ->> 'words'
     from jsonb_array_elements($2::jsonb) with ordinality as read (it, n)
     left join items i on i.source = $3 and i.id = it -> 'item' ->> 'id'`,
    [reading, JSON.stringify(items.map((item) => ({ item, words: foundBy(item).join(" ") }))), source],
  );
  await tx.query(
    "insert into items_read (reading, place, id, item, words) select $1 || ' gone', 0, id, '{}', '' from unnest($2::text[]) id",
    [reading, gone],
  );
  const changes = await putInPlace(tx, source, reading, at, "some");
  await tx.query(
    `update sources set refreshed_at = $2, held = (select count(*) from items where source = $1 and gone_at is null)
     where id = $1`,
    [source, at],
  );
  if (Object.values(changes).some((count) => count > 0))
    await tx.query("update sources set changed_at = $2, changes = $3::jsonb where id = $1", [
      source,
      at,
      JSON.stringify(changes),
    ]);
}

/** What comes under another id than before and leads to the same page is the same: some shops count anew every time. */
async function keepIdentity(tx: Queries, source: string, reading: string): Promise<void> {
  await tx.query(
    `with strange as (
       select r.id, r.item ->> 'link' as link from items_read r
       where r.reading = $2 and r.item ->> 'link' <> ''
         and not exists (select 1 from items i where i.source = $1 and i.id = r.id)),
     missing as (
       select i.id, i.item ->> 'link' as link from items i
       where i.source = $1 and i.gone_at is null and i.item ->> 'link' <> ''
         and not exists (select 1 from items_read r where r.reading = $2 and r.id = i.id)),
     same as (
       select min(s.id) as id, min(m.id) as known from strange s join missing m using (link)
       group by link having count(*) = 1)
     update items_read r set id = same.known, item = jsonb_set(r.item, '{id}', to_jsonb(same.known))
     from same where r.reading = $2 and r.id = same.id`,
    [source, reading],
  );
}
