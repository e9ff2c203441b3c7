/** Items as they are asked for: sought, and as blocks are filled with them. */
import { z } from "zod";
import { type Item, ItemSchema, searchWords } from "~/core/items";
import type { Septima } from "../septima";
import { CHANGES, type Change } from "./store";

export const ITEM_ORDERS = ["best", "newest", "soonest", "cheapest", "saving", "name", "given"] as const;

export const ItemQuerySchema = z.object({
  source: z.string().optional(),
  words: z.string().max(200).optional(),
  /** One step of a category's path. */
  category: z.string().max(100).optional(),
  /** What it costs now, from and to. */
  from: z.number().nonnegative().optional(),
  to: z.number().nonnegative().optional(),
  inStock: z.boolean().optional(),
  /** Only what shows a film. */
  films: z.boolean().optional(),
  /** Only what was last seen to change so, at the time its source last changed. */
  changed: z.enum(CHANGES).optional(),
  order: z.enum(ITEM_ORDERS).default("best"),
  offset: z.number().int().nonnegative().default(0),
  limit: z.number().int().min(1).max(100).default(40),
});
/** Which items are sought, and in which order. */
export type ItemQuery = z.input<typeof ItemQuerySchema>;

/** An item that was found, where it stands, and what was last seen to change of it. */
export interface FoundItem {
  source: string;
  item: Item;
  gone: boolean;
  changed: { what: Change; at: string; was: unknown } | null;
}

interface ItemRow {
  source: string;
  item: unknown;
  size: unknown;
  gone_at: Date | null;
  what: Change | null;
  changed_at: Date | null;
  was: unknown;
}

const itemFrom = ({ item, size }: Pick<ItemRow, "item" | "size">): Item =>
  ItemSchema.parse(size ? { ...(item as object), size } : item);

/** By what they are put in order; what says nothing about it stands last, and ties by their place. */
const ORDERS: Record<(typeof ITEM_ORDERS)[number], string> = {
  best: "place",
  newest: "at desc nulls last, place",
  soonest: "at nulls last, place",
  cheapest: "costs nulls last, place",
  saving: "saving desc, place",
  name: "title, place",
  given: "place",
};

/** Counted up to so many. */
const MOST_COUNTED = 1000;

/** What a search asks the database for: each word as the beginning of one. Null where it has no words. */
function asked(words: string): string | null {
  const all = searchWords(words).slice(0, 8);
  return all.length === 0 ? null : all.map((word) => `'${word}':*`).join(" & ");
}

/**
 * Items that match, a part at a time.
 * @returns them, and how many there are, counted up to 1000
 */
export async function findItems(
  septima: Septima,
  query: ItemQuery,
): Promise<{ items: FoundItem[]; total: number }> {
  const {
    source,
    words = "",
    category,
    from,
    to,
    inStock,
    films,
    changed,
    order,
    offset,
    limit,
  } = ItemQuerySchema.parse(query);
  const params: unknown[] = [];
  const param = (value: unknown) => `$${params.push(value)}`;
  const sought = asked(words);
  const where = [
    changed === "gone" ? "true" : "i.gone_at is null",
    "exists (select 1 from sources s where s.id = i.source and s.deleted_at is null)",
    ...(source === undefined ? [] : [`i.source = ${param(source)}`]),
    ...(sought === null ? [] : [`i.words @@ to_tsquery('simple', ${param(sought)})`]),
    ...(category === undefined ? [] : [`${param(category)} = any(i.category)`]),
    ...(from === undefined ? [] : [`i.costs >= ${param(from)}`]),
    ...(to === undefined ? [] : [`i.costs <= ${param(to)}`]),
    ...(inStock ? ["coalesce(i.stock, 1) > 0"] : []),
    // Feeds alone have films: what is asked of each item is asked of few.
    ...(films
      ? ["i.source in (select id from sources where kind = 'feed') and i.item ->> 'film' <> ''"]
      : []),
    ...(changed === undefined
      ? []
      : [
          `exists (select 1 from item_changes c join sources s on s.id = c.source
             where c.source = i.source and c.item = i.id and c.what = ${param(changed)} and c.at = s.changed_at)`,
        ]),
  ].join(" and ");
  const ranked = sought !== null && order === "best";
  // First those whose title begins so, then those whose title has it.
  const by = ranked
    ? `position(lower(${param(words.trim())}) in lower(title)) = 1 desc,
       lower(title) ~ ${param(`(^|[^[:alnum:]])(${searchWords(words).join("|")})`)} desc, place`
    : ORDERS[order];
  // The best are looked for among as many as are counted: who types goes on typing, and one look at the index has to do.
  const columns = "source, id, place, title, at, costs, saving";
  const [among, counted] = ranked
    ? ["matching", "matching"]
    : [
        `items i where ${where}`,
        `(select 1 from items i where ${where} limit ${MOST_COUNTED}) as some_of_them`,
      ];
  const matching = `matching as materialized (select ${columns} from items i where ${where} limit ${MOST_COUNTED}),`;
  const rows = await septima.db.query<ItemRow & { total: string }>(
    `with ${ranked ? matching : ""}
     page as (select source, id, row_number() over (order by ${by}) as turn from ${among}
       order by ${by} limit ${param(limit)} offset ${param(offset)})
     select i.source, i.item, i.size, i.gone_at, c.what, c.at as changed_at, c.was, counted.total
     from (select count(*) as total from ${counted}) counted
     left join page on true
     left join items i on i.source = page.source and i.id = page.id
     left join lateral (
       select what, at, was from item_changes c where c.source = i.source and c.item = i.id order by at desc limit 1
     ) c on true
     order by page.turn`,
    params,
  );
  return {
    items: rows
      .filter(({ item }) => item !== null)
      .map((row) => ({
        source: row.source,
        item: itemFrom(row),
        gone: row.gone_at !== null,
        changed: row.what && { what: row.what, at: row.changed_at?.toISOString() ?? "", was: row.was },
      })),
    total: Math.min(MOST_COUNTED, Number(rows[0].total)),
  };
}

/**
 * Items as their sources have them now.
 * @param of the source and the id of each
 * @returns them in the same order; null for what is gone, as what comes from no source is
 */
export async function itemsNow(
  septima: Septima,
  of: readonly (readonly [source: string, id: string])[],
): Promise<(Item | null)[]> {
  const rows = await septima.db.query<ItemRow & { id: string }>(
    `select i.source, i.id, i.item, i.size from items i
     join unnest($1::text[], $2::text[]) as asked (source, id) on i.source = asked.source and i.id = asked.id
     join sources s on s.id = i.source and s.deleted_at is null
     where i.gone_at is null`,
    [of.map(([source]) => source), of.map(([, id]) => id)],
  );
  const found = new Map(rows.map((row) => [JSON.stringify([row.source, row.id]), itemFrom(row)]));
  return of.map(([source, id]) => found.get(JSON.stringify([source, id])) ?? null);
}

/** All that a source holds now, as it gives it; read once for as long as it is the same. */
export async function allItems(septima: Septima, source: string): Promise<readonly Item[]> {
  const [row] = await septima.db.query<{ state: string }>(
    `select concat_ws(' ', changed_at, refreshed_at, (select count(size) from items where source = s.id)) as state
     from sources s where id = $1 and deleted_at is null`,
    [source],
  );
  if (!row) return [];
  const key = `items of ${source}`;
  const known = septima.cache.get(key) as { state: string; items: readonly Item[] } | undefined;
  if (known?.state === row.state) return known.items;
  const rows = await septima.db.query<ItemRow>(
    "select item, size from items where source = $1 and gone_at is null order by place",
    [source],
  );
  const items = rows.map(itemFrom);
  septima.cache.set(key, { state: row.state, items });
  return items;
}

/** The categories of a source, each step by itself, the most used first. */
export async function categoriesOf(
  septima: Septima,
  source?: string,
): Promise<{ name: string; count: number }[]> {
  return (
    await septima.db.query<{ name: string; count: string }>(
      `select name, count(*) as count from items i, unnest(category) as name
       where gone_at is null and ($1::text is null or source = $1)
         and exists (select 1 from sources s where s.id = i.source and s.deleted_at is null)
       group by name order by count(*) desc, name limit 100`,
      [source ?? null],
    )
  ).map(({ name, count }) => ({ name, count: Number(count) }));
}

/**
 * What the items of a source have in one of their facts, the commonest first.
 * @param field as rules over items name it
 */
export async function itemValues(
  septima: Septima,
  source: string,
  field: string,
): Promise<{ value: string; count: number }[]> {
  const path = field.startsWith("fact.") ? ["facts", field.slice("fact.".length)] : [field];
  return septima.db.query(
    `select value, count(*)::int as count from (
       select jsonb_array_elements_text(case jsonb_typeof(it) when 'array' then it else jsonb_build_array(it) end) as value
       from (select item #> $2::text[] as it from items where source = $1 and gone_at is null) held
       where jsonb_typeof(it) in ('array', 'string')
     ) said where value <> '' and length(value) <= 500 group by value order by count(*) desc, value limit 200`,
    [source, path],
  );
}
