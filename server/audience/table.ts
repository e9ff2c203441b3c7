/**
 * The contacts of a group as a table: found, sorted and looked at in any part. Their order is worked out once, as
 * numbers, and kept until the audience changes; what is in view is read by its numbers.
 */
import { z } from "zod";
import { type Contact, type FieldDef, RuleSchema, toSql } from "~/core/audience";
import type { Septima } from "../septima";
import { askAudience, audienceNow, behaviourNow } from "./answers";
import { CONTACT_COLUMNS, whole } from "./contacts";
import { fieldsOf } from "./fields";
import { audienceContext } from "./groups";
import { type Group, GroupSchema, groupSql } from "./selection";

export const TableQuerySchema = z.object({
  group: GroupSchema,
  /** Words that are in the address or the name. */
  words: z.string().max(400),
  /** Only those who meet it. */
  filter: RuleSchema.nullable(),
  sort: z.object({ by: z.string().max(100), down: z.boolean() }),
});
export type TableQuery = z.infer<typeof TableQuerySchema>;

/** So many orders are kept. */
const KEPT = 12;
interface Order {
  audience: object;
  behaviour: unknown;
  ids: Promise<number[]>;
}
const orders = new WeakMap<Septima["cache"], Map<string, Order>>();

/**
 * The numbers of the contacts, in order.
 * @throws RuleError when a segment is gone
 */
export async function tableOrder(septima: Septima, query: TableQuery): Promise<readonly number[]> {
  const audience = await audienceNow(septima);
  const behaviour = behaviourNow(septima);
  const { today, zone } = await audienceContext(septima);
  const key = `${today} ${zone} ${JSON.stringify(query)}`;
  const kept = orders.get(septima.cache) ?? new Map<string, Order>();
  orders.set(septima.cache, kept);
  const known = kept.get(key);
  if (known?.audience === audience && known.behaviour === behaviour) return known.ids;
  const ids = sorted(septima, query);
  kept.delete(key);
  kept.set(key, { audience, behaviour, ids });
  ids.catch(() => kept.delete(key));
  for (const old of [...kept.keys()].slice(0, -KEPT)) kept.delete(old);
  return ids;
}

async function sorted(septima: Septima, { group, words, filter, sort }: TableQuery): Promise<number[]> {
  const context = await audienceContext(septima);
  const within = groupSql(group, context, 0);
  const params = [...within.params];
  const param = (value: unknown) => `$${params.push(value)}`;
  const tests = [isRemoved(group) ? "true" : "c.status <> 'removed'", within.sql];
  if (filter) {
    const condition = toSql(filter, context, params.length);
    params.push(...condition.params);
    tests.push(condition.sql);
  }
  for (const word of words.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 6))
    tests.push(
      `strpos(lower(c.email || ' ' || coalesce(c.fields ->> 'first_name', '') || ' ' || coalesce(c.fields ->> 'last_name', '')), ${param(word)}) > 0`,
    );
  const fields = await fieldsOf(septima);
  const by = sortSql(
    sort.by,
    fields.find(({ key }) => key === sort.by),
    param,
  );
  const [row] = await septima.db.query<{ ids: string | null }>(
    `select string_agg(id::text, ',') as ids from (
       select c.id from contacts c where ${tests.join(" and ")}
       order by ${by} ${sort.down ? "desc" : "asc"} nulls last, c.id) found`,
    params,
  );
  return row.ids === null ? [] : row.ids.split(",").map(Number);
}

/** Whether a group is that of the removed, who are out of sight in every other. */
const isRemoved = ({ kind, id }: Group) => kind === "standing" && id === "removed";

/** Words in the order people look for them: without regard to capitals and accents. */
const spelt = (text: string) =>
  `nullif(translate(lower(trim(${text})), 'àáâãäåçèéêëìíîïñòóôõöøùúûüýÿ', 'aaaaaaceeeeiiiinoooooouuuuyy'), '')`;

/** What rows are sorted by; nothing comes last. */
function sortSql(by: string, field: FieldDef | undefined, param: (value: unknown) => string): string {
  if (by === "name") return spelt("concat_ws(' ', c.fields ->> 'first_name', c.fields ->> 'last_name')");
  if (by === "email") return "lower(c.email)";
  if (by === "status") return "c.status";
  if (!field) return "c.id";
  const key = `${param(by)}::text`;
  const typed = (type: string, value: string) =>
    `(case when jsonb_typeof(c.fields -> ${key}) = '${type}' then ${value} end)`;
  switch (field.kind) {
    case "number":
    case "money":
      return typed("number", `(c.fields ->> ${key})::numeric`);
    case "boolean":
      return typed("boolean", `(c.fields ->> ${key})::boolean`);
    case "set":
      return typed("array", `jsonb_array_length(c.fields -> ${key})`);
    default:
      return typed("string", spelt(`c.fields ->> ${key}`));
  }
}

/** A part of the table. */
export interface TablePart {
  /** How many there are in all. */
  total: number;
  /** How many of them can be written to. */
  readers: number;
  rows: Contact[];
}

/** A part of the table: the contacts from a place on. */
export async function tableRows(
  septima: Septima,
  query: TableQuery,
  from: number,
  count: number,
): Promise<TablePart> {
  const ids = await tableOrder(septima, query);
  const { everyone } = await askAudience(septima, await audienceContext(septima), []);
  let readers = 0;
  for (const id of ids) if (everyone.has(id)) readers += 1;
  const part = ids.slice(from, from + count);
  if (part.length === 0) return { total: ids.length, readers, rows: [] };
  const rows = await septima.db.query<Contact>(
    `select ${CONTACT_COLUMNS} from contacts c where c.id = any ($1::int[])`,
    [part],
  );
  const known = new Map((await whole(septima, rows)).map((contact) => [contact.id, contact]));
  return { total: ids.length, readers, rows: part.flatMap((id) => known.get(id) ?? []) };
}

/** Who is meant by a table as it is shown, or by the marked rows of it. */
export const PickSchema = z.union([
  z.object({ ids: z.array(z.number().int().positive()).max(50_000) }),
  z.object({ all: TableQuerySchema, but: z.array(z.number().int().positive()).max(50_000) }),
]);
export type Pick = z.infer<typeof PickSchema>;

/** The numbers of those who are meant. @throws RuleError when a segment is gone */
export async function picked(septima: Septima, pick: Pick): Promise<number[]> {
  if ("ids" in pick) return pick.ids;
  const but = new Set(pick.but);
  return (await tableOrder(septima, pick.all)).filter((id) => !but.has(id));
}
