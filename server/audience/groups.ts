import { type AudienceContext, type Contact, predicate, type Rule, RuleSchema } from "~/core/audience";
import { cached, Refusal, type Septima, today } from "../septima";
import { audienceChanged, subscribedContacts } from "./contacts";

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
 * How many subscribed contacts meet a rule, and the first of them: by predicate on the contacts in memory, which is several times faster than
 * asking the database while a rule is being written.
 * @throws RuleError when a segment is missing or refers to itself
 */
export async function findReaders(
  septima: Septima,
  rule: Rule,
): Promise<{ count: number; sample: Contact | null }> {
  const meets = predicate(rule, await audienceContext(septima));
  let count = 0;
  let sample: Contact | null = null;
  for (const contact of await subscribedContacts(septima)) {
    if (!meets(contact)) continue;
    count++;
    sample ??= contact;
  }
  return { count, sample };
}

/** How many subscribed contacts meet a rule; see `findReaders`. */
export async function countReaders(septima: Septima, rule: Rule): Promise<number> {
  return (await findReaders(septima, rule)).count;
}
