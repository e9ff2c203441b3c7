/** What contacts did: the tests on it, for one contact with their history and for the whole table of events. */
import type { Contact } from "./contact";
import type { AudienceContext } from "./context";
import { addSpan, dayStart } from "./dates";
import type { DidRule } from "./did-rule";
import { EVENT_KINDS, type History } from "./history";

/** From which moment on a rule counts, in milliseconds since 1970; null for ever. */
function sinceWhen(rule: DidRule, { today, zone = "UTC" }: AudienceContext): number | null {
  return rule.within === undefined ? null : dayStart(addSpan(today, rule.within, -1), zone);
}

/** How often a history says that it was done in the rule's time, and when last, in milliseconds since 1970. */
export function timesDone(
  rule: DidRule,
  context: AudienceContext,
): (history: History) => { times: number; last: number | null } {
  const since = sinceWhen(rule, context);
  const inTime = (at: number) => since === null || at >= since;
  const last = (all: readonly { at: number }[]) =>
    all.reduce<number | null>((latest, { at }) => (latest === null || at > latest ? at : latest), null);
  if (rule.what === "bought") {
    const meant = (line: History["orders"][number]["lines"][number]) =>
      (rule.product === undefined || line.product === rule.product) &&
      (rule.category === undefined || line.category === rule.category);
    const any = rule.product === undefined && rule.category === undefined;
    return ({ orders }) => {
      const those = orders.filter(({ at, lines }) => inTime(at) && (any || lines.some(meant)));
      return { times: those.length, last: last(those) };
    };
  }
  const link = rule.what === "clicked" ? rule.link : undefined;
  return ({ events }) => {
    const those = events.filter(
      ({ what, at, campaign, address }) =>
        what === rule.what &&
        inTime(at) &&
        (rule.campaign === undefined || campaign === rule.campaign) &&
        (link === undefined || address === link),
    );
    return { times: new Set(those.map(({ campaign }) => campaign)).size, last: last(those) };
  };
}

/** The test for a contact whose history is there; without one, nothing ever happened. */
export function didPredicate(rule: DidRule, context: AudienceContext): (contact: Contact) => boolean {
  const done = timesDone(rule, context);
  return ({ history }) => {
    const times = history ? done(history).times : 0;
    return rule.often === "atLeast" ? times >= rule.times : times <= rule.times;
  };
}

/**
 * The query for the contacts who did it at least so many times, by their number as `contact_id`; who did it at most so
 * many times are the others.
 * @param param writes a parameter with its type
 */
function doersSql(
  rule: DidRule,
  least: number,
  context: AudienceContext,
  param: (value: unknown, type: string) => string,
): string {
  const since = sinceWhen(rule, context);
  const where = (table: string) =>
    since === null ? [] : [`${table}.at >= ${param(new Date(since), "timestamptz")}`];
  const whereAll = (tests: readonly string[]) => (tests.length > 0 ? ` where ${tests.join(" and ")}` : "");
  if (rule.what === "bought") {
    const tests = where("o");
    const lines = [
      ...(rule.product === undefined ? [] : [`l.product = ${param(rule.product, "text")}`]),
      ...(rule.category === undefined ? [] : [`l.category = ${param(rule.category, "text")}`]),
    ];
    if (lines.length > 0)
      tests.push(`exists (select 1 from order_lines l where l.order_id = o.id and ${lines.join(" and ")})`);
    const having = least > 1 ? ` having count(*) >= ${param(least, "integer")}` : "";
    return `select o.contact_id from orders o${whereAll(tests)} group by o.contact_id${having}`;
  }
  const tests = [`e.kind = ${EVENT_KINDS[rule.what]}`, ...where("e")];
  if (rule.campaign !== undefined)
    tests.push(`e.campaign = (select number from campaigns where id = ${param(rule.campaign, "text")})`);
  if (rule.what === "clicked" && rule.link !== undefined)
    tests.push(`e.place = any (array(select id from places where address = ${param(rule.link, "text")}))`);
  const these = `from events e${whereAll(tests)}`;
  if (least === 1) return `select e.contact_id ${these} group by e.contact_id`;
  // Counting different campaigns sorts all events. A bit for each campaign does not, and counts right while those of a
  // contact are fewer than so many numbers apart; of others it says too little, and they are counted by sorting.
  const bits = 64;
  const enough = param(least, "integer");
  return `with did as materialized (
      select e.contact_id, bit_count(bit_or(1::bigint << (e.campaign % ${bits}))::bit(${bits})) as campaigns,
        max(e.campaign) - min(e.campaign) as apart ${these} group by e.contact_id having count(*) >= ${enough})
    select contact_id from did where campaigns >= ${enough}
    union all
    select e.contact_id ${these} and e.contact_id in (select contact_id from did where campaigns < ${enough} and apart >= ${bits})
      group by e.contact_id having count(distinct e.campaign) >= ${enough}`;
}

/** The test as a condition on `contacts c`. */
export function didSql(
  rule: DidRule,
  context: AudienceContext,
  param: (value: unknown, type: string) => string,
): string {
  const least = rule.often === "atLeast" ? rule.times : rule.times + 1;
  if (least === 0) return "true";
  // Found once for everybody: whole audiences are asked, and not one contact. "is true" keeps a planner from looking up
  // each of them in the table of contacts, which it does when it believes them to be few.
  const among = `(c.id in (${doersSql(rule, least, context, param)})) is true`;
  return rule.often === "atLeast" ? `(${among})` : `(not ${among})`;
}

/**
 * The query for all who did it, or who did it too often, once for everybody: `contact_id`s.
 * @returns null when everybody did it no fewer than no times; `others` says that those who meet the rule are the others
 */
export function didSetSql(
  rule: DidRule,
  context: AudienceContext,
): { sql: string; params: unknown[]; others: boolean } | null {
  const least = rule.often === "atLeast" ? rule.times : rule.times + 1;
  if (least === 0) return null;
  const params: unknown[] = [];
  const sql = doersSql(rule, least, context, (value, type) => {
    params.push(value);
    return `$${params.length}::${type}`;
  });
  return { sql, params, others: rule.often === "atMost" };
}
