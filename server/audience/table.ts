/**
 * The contacts of a group as a table: found, sorted and looked at in any part. The first rows are there before all are in
 * order; the order of all is worked out when somebody looks further down, as numbers, and kept until the audience
 * changes. What is in view is read by its numbers.
 */
import { z } from "zod";
import { asksHistory, type Contact, type FieldDef, RuleSchema, toSql } from "~/core/audience";
import { broadly } from "../db/database";
import type { Septima } from "../septima";
import { audienceNow, behaviourNow } from "./answers";
import { CONTACT_COLUMNS, soughtSql, whole } from "./contacts";
import { fieldsOf } from "./fields";
import { audienceContext } from "./groups";
import { type Group, GroupSchema, groupSql, ruleOfGroup } from "./selection";

export const TableQuerySchema = z.object({
  group: GroupSchema,
  /** Words that are in the address or the name. */
  words: z.string().max(400),
  /** Only those who meet it. */
  filter: RuleSchema.nullable(),
  sort: z.object({ by: z.string().max(100), down: z.boolean() }),
});
export type TableQuery = z.infer<typeof TableQuerySchema>;

/** So many tables are remembered. */
const KEPT = 12;

/** How many are in a table. */
interface Totals {
  total: number;
  /** How many of them can be written to. */
  readers: number;
}

/** What is known of a table until the audience changes. */
interface Known {
  audience: object;
  behaviour: unknown;
  totals: Promise<Totals> | null;
  /** The numbers of all contacts in order. */
  order: Promise<number[]> | null;
}
const tables = new WeakMap<Septima["cache"], Map<string, Known>>();

async function knownTable(septima: Septima, query: TableQuery): Promise<Known> {
  const audience = await audienceNow(septima);
  const behaviour = behaviourNow(septima);
  const { today, zone } = await audienceContext(septima);
  const key = `${today} ${zone} ${JSON.stringify(query)}`;
  const kept = tables.get(septima.cache) ?? new Map<string, Known>();
  tables.set(septima.cache, kept);
  const before = kept.get(key);
  if (before?.audience === audience && before.behaviour === behaviour) return before;
  const known: Known = { audience, behaviour, totals: null, order: null };
  kept.delete(key);
  kept.set(key, known);
  for (const old of [...kept.keys()].slice(0, -KEPT)) kept.delete(old);
  return known;
}

/**
 * The numbers of the contacts, in order.
 * @throws RuleError when a segment is gone
 */
export async function tableOrder(septima: Septima, query: TableQuery): Promise<readonly number[]> {
  return orderOf(septima, query, await knownTable(septima, query));
}

function orderOf(septima: Septima, query: TableQuery, known: Known): Promise<number[]> {
  if (known.order) return known.order;
  const all = allInOrder(septima, query);
  const order = all.then(({ ids }) => ids);
  remember(known, "order", order);
  if (!known.totals)
    remember(
      known,
      "totals",
      all.then(({ ids, readers }) => ({ total: ids.length, readers })),
    );
  return order;
}

function totalsOf(septima: Septima, query: TableQuery, known: Known): Promise<Totals> {
  return known.totals ?? remember(known, "totals", counted(septima, query));
}

/** What failed is asked for again the next time. */
function remember<What extends "order" | "totals">(
  known: Known,
  what: What,
  answer: NonNullable<Known[What]>,
): NonNullable<Known[What]> {
  known[what] = answer;
  answer.catch(() => {
    known[what] = null;
  });
  return answer;
}

async function allInOrder(septima: Septima, query: TableQuery): Promise<{ ids: number[]; readers: number }> {
  const { where, by, params } = await tableSql(septima, query);
  const [row] = await broadly(septima.db, (tx) =>
    tx.query<{ ids: string | null; readers: number }>(
      `select string_agg(id::text, ',') as ids, count(*) filter (where status = 'subscribed')::int as readers
       from (select c.id, c.status from contacts c where ${where} order by ${by}) found`,
      params,
    ),
  );
  return { ids: row.ids === null ? [] : row.ids.split(",").map(Number), readers: row.readers };
}

async function counted(septima: Septima, query: TableQuery): Promise<Totals> {
  const { where, params } = await tableSql(septima, { ...query, sort: NO_SORT });
  const [row] = await broadly(septima.db, (tx) =>
    tx.query<Totals>(
      `select count(*)::int as total, count(*) filter (where c.status = 'subscribed')::int as readers
       from contacts c where ${where}`,
      params,
    ),
  );
  return row;
}

const NO_SORT = { by: "id", down: false };

/** The conditions on `contacts c` for a table, what it is sorted by, and their parameters. @throws RuleError */
async function tableSql(
  septima: Septima,
  { group, words, filter, sort }: TableQuery,
): Promise<{ where: string; by: string; params: unknown[] }> {
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
  tests.push(...soughtSql(words, param));
  const fields = await fieldsOf(septima);
  const by = sortSql(
    sort.by,
    fields.find(({ key }) => key === sort.by),
    param,
  );
  return {
    where: tests.join(" and "),
    by: `${by === "c.id" ? "" : `${by} ${sort.down ? "desc" : "asc"} nulls last, `}c.id ${by === "c.id" && sort.down ? "desc" : "asc"}`,
    params,
  };
}

/** Whether a group is that of the removed, who are out of sight in every other. */
const isRemoved = ({ kind, id }: Group) => kind === "standing" && id === "removed";

const ACCENTS = "'àáâãäåçèéêëìíîïñòóôõöøùúûüýÿ', 'aaaaaaceeeeiiiinoooooouuuuyy'";

/**
 * Words in the order people look for them: without regard to capitals and accents. Taking accents away costs more than
 * all the rest, and few words have any.
 */
const spelt = (text: string) =>
  `nullif(case when ${text} ~ '[^\\x01-\\x7f]' then translate(lower(trim(${text})), ${ACCENTS}) else lower(trim(${text}) collate "C") end collate "C", '')`;

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
export interface TablePart extends Totals {
  rows: Contact[];
}

/** So many rows from the start on are found without putting all others in order. */
const FIRST = 500;

/** A part of the table: the contacts from a place on. @throws RuleError when a segment is gone */
export async function tableRows(
  septima: Septima,
  query: TableQuery,
  from: number,
  count: number,
): Promise<TablePart> {
  const known = await knownTable(septima, query);
  const rules = [ruleOfGroup(query.group), ...(query.filter ? [query.filter] : [])];
  // Of those who did something, finding the first takes as long as finding all.
  const inOrder = known.order || from + count > FIRST || asksHistory(rules, await audienceContext(septima));
  const [part, totals] = await Promise.all([
    inOrder
      ? orderOf(septima, query, known).then((ids) => ids.slice(from, from + count))
      : firstOf(septima, query, from, count),
    totalsOf(septima, query, known),
  ]);
  if (part.length === 0) return { ...totals, rows: [] };
  const rows = await septima.db.query<Contact>(
    `select ${CONTACT_COLUMNS} from contacts c where c.id = any ($1::int[])`,
    [part],
  );
  const contacts = new Map((await whole(septima, rows)).map((contact) => [contact.id, contact]));
  return { ...totals, rows: part.flatMap((id) => contacts.get(id) ?? []) };
}

async function firstOf(septima: Septima, query: TableQuery, from: number, count: number): Promise<number[]> {
  const { where, by, params } = await tableSql(septima, query);
  const rows = await broadly(septima.db, (tx) =>
    tx.query<{ id: number }>(
      `select c.id from contacts c where ${where} order by ${by} limit ${count} offset ${from}`,
      params,
    ),
  );
  return rows.map(({ id }) => id);
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
