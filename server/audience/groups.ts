import {
  type AudienceContext,
  type Bits,
  type Contact,
  isAnswerable,
  predicate,
  type Rule,
  RuleSchema,
} from "~/core/audience";
import { cached, Refusal, type Septima, today } from "../septima";
import { askAudience } from "./answers";
import { audienceChanged, contactsById } from "./contacts";

export interface List {
  id: string;
  name: string;
  count: number;
}

export interface Segment {
  id: string;
  name: string;
  rule: Rule;
}

/** The lists, with how many are on each. */
export async function lists(septima: Septima): Promise<List[]> {
  return septima.db.query<List>(
    "select l.id, l.name, count(m.contact_id) as count from lists l left join list_members m on m.list_id = l.id group by l.id order by l.name",
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
  const known = await cached(septima, "audience context", async () => {
    return new Map((await segments(septima)).map((segment) => [segment.id, segment.rule]));
  });
  return { today: today(septima), segments: known };
}

export async function addList(septima: Septima, id: string, name: string): Promise<void> {
  await septima.db.query("insert into lists (id, name, created_at) values ($1, $2, $3)", [
    id,
    name,
    new Date(septima.now()),
  ]);
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
  await septima.db.query(
    `insert into segments (id, name, rule, created_at) values ($1, $2, $3::jsonb, $4)
     on conflict (id) do update set name = excluded.name, rule = excluded.rule`,
    [segment.id, segment.name.trim(), JSON.stringify(segment.rule), new Date(septima.now())],
  );
  audienceChanged(septima);
}

/**
 * How many subscribed contacts meet a rule, and the first of them.
 * @throws RuleError when a segment is missing or refers to itself
 */
export async function findReaders(
  septima: Septima,
  rule: Rule,
): Promise<{ count: number; sample: Contact | null }> {
  const [found] = await meeting(septima, [rule]);
  const sample = found.count() > 0 ? await contactsById(septima, [found.first()]) : null;
  return { count: found.count(), sample: sample?.get(found.first()) ?? null };
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
