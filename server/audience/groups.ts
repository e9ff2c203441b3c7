import {
  type AudienceContext,
  type Bits,
  dayIn,
  isAnswerable,
  predicate,
  type Rule,
  RuleSchema,
} from "~/core/audience";
import type { Queries } from "../db/database";
import { keepMentions } from "../mentions";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";
import { zoneOf } from "../workspace/settings";
import { askAudience, audienceChanged } from "./answers";

import { recordFacts } from "./fields";

export interface List {
  id: string;
  name: string;
  about: string;
  /** Whether readers may join and leave it by themselves. */
  topic: boolean;
}

export interface Segment {
  id: string;
  name: string;
  rule: Rule;
}

/** The lists by name. */
export async function lists(septima: Septima): Promise<List[]> {
  return septima.db.query<List>(
    "select id, name, about, topic from lists where deleted_at is null order by name",
  );
}

/** What lists and segments are called by their ids, also those that were deleted, which is said. */
export async function groupNames({ db }: Pick<Septima, "db">): Promise<Map<string, string>> {
  const rows = await db.query<{ id: string; name: string; gone: boolean }>(
    `select id, name, deleted_at is not null as gone from lists
     union all select id, name, deleted_at is not null from segments`,
  );
  return new Map(rows.map(({ id, name, gone }) => [id, gone ? `${name} (deleted)` : name]));
}

/** How many are on each list, whether they may be written to or not, by its id; nobody is on one that is missing. */
export async function listSizes({ db }: Pick<Septima, "db">): Promise<Map<string, number>> {
  // The removed are few: those who are not removed would have to be looked up one by one.
  const rows = await db.query<{ id: string; size: number }>(
    `with removed as (select m.list_id, count(*) as count from contacts c join list_members m on m.contact_id = c.id
       where c.status = 'removed' group by m.list_id)
     select m.list_id as id, (m.count - coalesce(r.count, 0))::int as size
     from (select list_id, count(*) as count from list_members group by list_id) m left join removed r using (list_id)`,
  );
  return new Map(rows.map(({ id, size }) => [id, size]));
}

/**
 * Makes a list, or changes what it is called and whether readers may choose it.
 * @throws Refusal when the name is empty, or another list has it (409)
 */
export async function saveList(
  septima: Septima,
  list: { id: string; name: string; about: string; topic: boolean },
): Promise<void> {
  if (list.name.trim() === "") throw new Refusal("Give the list a name.");
  await septima.db.transaction(async (tx) => {
    // Whoever names a list meanwhile waits.
    await tx.query("select pg_advisory_xact_lock(hashtext('names of lists'))");
    await refuseSameName(tx, list.id, list.name.trim());
    await tx.query(
      `insert into lists (id, name, about, topic, created_at) values ($1, $2, $3, $4, $5)
       on conflict (id) do update set name = excluded.name, about = excluded.about, topic = excluded.topic`,
      [list.id, list.name.trim(), list.about.trim(), list.topic, new Date(septima.now())],
    );
  });
  septima.cache.delete("audience context");
}

/** @throws Refusal (409) when another list that is there is called so */
export async function refuseSameName(tx: Queries, id: string, name: string): Promise<void> {
  const [other] = await tx.query<{ name: string }>(
    "select name from lists where lower(name) = lower($1) and id <> $2 and deleted_at is null",
    [name, id],
  );
  if (other)
    throw new Refusal(
      `There is a list “${other.name}” already. Give this one another name, or use that one.`,
      409,
    );
}

/** The segments by name. */
export async function segments(septima: Septima): Promise<Segment[]> {
  const rows = await septima.db.query<{ id: string; name: string; rule: unknown }>(
    "select id, name, rule from segments where deleted_at is null order by name",
  );
  return rows.map((row) => ({ ...row, rule: RuleSchema.parse(row.rule) }));
}

/** What rules are answered with today. */
export async function audienceContext(septima: Septima): Promise<AudienceContext> {
  const known = await cached(septima, "audience context", async () => ({
    zone: await zoneOf(septima),
    segments: new Map((await segments(septima)).map((segment) => [segment.id, segment.rule])),
    names: new Map(
      (await septima.db.query<{ id: string; name: string }>("select id, name from segments")).map(
        ({ id, name }) => [id, name],
      ),
    ),
    lists: new Set(
      (await septima.db.query<{ id: string }>("select id from lists where deleted_at is null")).map(
        ({ id }) => id,
      ),
    ),
    records: await recordFacts(septima),
  }));
  return { ...known, today: dayIn(known.zone, septima.now()) };
}

/**
 * Keeps a segment, new or changed.
 * @throws Refusal when the name is empty; RuleError when the rule refers to itself or to a segment that is gone
 */
export async function saveSegment(septima: Septima, segment: Segment): Promise<void> {
  if (segment.name.trim() === "") throw new Refusal("Give the segment a name.");
  const context = await audienceContext(septima);
  const others = new Map(context.segments).set(segment.id, segment.rule);
  predicate(segment.rule, { ...context, segments: others }, [segment.id]);
  await septima.db.transaction(async (tx) => {
    await tx.query(
      `insert into segments (id, name, rule, created_at) values ($1, $2, $3::jsonb, $4)
       on conflict (id) do update set name = excluded.name, rule = excluded.rule`,
      [segment.id, segment.name.trim(), JSON.stringify(segment.rule), new Date(septima.now())],
    );
    await keepMentions(tx, "segment", segment.id, segment.rule);
  });
  audienceChanged(septima);
}

/** How many subscribed contacts meet each rule; null where one cannot be answered. */
export async function countReaders(septima: Septima, rules: readonly Rule[]): Promise<(number | null)[]> {
  const context = await audienceContext(septima);
  const answerable = rules.map((rule) => isAnswerable(rule, context));
  const found = await meeting(
    septima,
    rules.filter((_, index) => answerable[index]),
  );
  return answerable.map((can) => (can ? found.shift()!.count() : null));
}

/** Who of the subscribed contacts meets each rule. @throws RuleError */
async function meeting(septima: Septima, rules: readonly Rule[]): Promise<Bits[]> {
  const { meets } = await askAudience(septima, await audienceContext(septima), rules);
  return rules.map(meets);
}
