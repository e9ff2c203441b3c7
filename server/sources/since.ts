/** What has come to sources since the email before, of those that follow one another. */
import { type ListAsk, newOf } from "~/core/picking";
import { dateBefore, RhythmSchema } from "~/core/sending";
import type { Septima } from "../septima";
import { allItems } from "./items";

/** Where nothing went before, what is of so many milliseconds counts as new. */
const WITHOUT_LAST = 7 * 86_400_000;

/** The email before. */
interface Last {
  /** In milliseconds since 1970. */
  at: number;
  /** Up to where the items of each source were seen then. */
  marks: Readonly<Record<string, string>>;
}

/**
 * What went before a campaign goes: itself where it repeats, else the last of its series. Where nothing did, the date of
 * its rhythm before it was booked, or a week ago.
 */
async function lastBefore(septima: Septima, campaignId: string): Promise<Last> {
  const [row] = await septima.db.query<{ at: Date; marks: Last["marks"] | null }>(
    `select d.gathered_at as at, d.marks from dispatches d join campaigns c on c.id = d.campaign_id
     where d.gathered_at is not null and (d.state <> 'cancelled' or d.accepted > 0)
       and (c.id = $1 or (c.series <> '' and c.series = (select series from campaigns where id = $1)))
     order by (c.id = $1) desc, d.gathered_at desc limit 1`,
    [campaignId],
  );
  if (row) return { at: row.at.getTime(), marks: row.marks ?? {} };
  const [booked] = await septima.db.query<{ rhythm: unknown; created_at: Date }>(
    `select rhythm, created_at from bookings where campaign_id = $1 and rhythm is not null
     order by created_at desc limit 1`,
    [campaignId],
  );
  // As if the date before the first had gone.
  const at = booked
    ? dateBefore(RhythmSchema.parse(booked.rhythm), booked.created_at.getTime() + 1)
    : septima.now() - WITHOUT_LAST;
  return { at, marks: {} };
}

/** What is new in sources, and up to where they were seen for it. */
export interface SinceLast {
  of(source: string): ReadonlySet<string>;
  marks: Record<string, string>;
}

const DAY = "at ~ '^\\d{4}-\\d\\d-\\d\\d$'";
const MOMENT = "at ~ '^\\d{4}-\\d\\d-\\d\\dT'";

/**
 * What is new for a campaign in the sources of lists that ask for it. Items that were there when their source was first read
 * are as old as they say; others as when they were first seen, whatever they say. Nothing is new twice, and nothing is missed:
 * up to where a source was seen is kept, not when.
 */
export async function sinceLast(
  septima: Septima,
  asks: readonly ListAsk[],
  campaignId: string,
): Promise<SinceLast> {
  const sources = new Set(asks.flatMap((ask) => (ask.sinceLast ? [ask.source] : [])));
  const found = new Map<string, ReadonlySet<string>>();
  const marks: Record<string, string> = {};
  if (sources.size > 0) {
    const last = await lastBefore(septima, campaignId);
    for (const source of sources) {
      const [{ ids, mark }] = await septima.db.query<{ ids: string[] | null; mark: string | null }>(
        `with held as (select id, gone_at, seen_first, min(seen_first) over () as began,
           case when ${DAY} then (at || 'T00:00:00Z')::timestamptz when ${MOMENT} then at::timestamptz end as said
           from items where source = $1)
         select array_agg(id) filter (where gone_at is null and
             case when seen_first > began then seen_first else least(said, seen_first) end
               > coalesce($2::timestamptz, $3::timestamptz)) as ids,
           max(seen_first)::text as mark from held`,
        [source, last.marks[source] ?? null, new Date(last.at)],
      );
      found.set(source, new Set(ids));
      if (mark !== null) marks[source] = mark;
    }
  }
  return { of: (source) => found.get(source) ?? new Set(), marks };
}

/** How many items are new for a campaign in its lists that ask for them, each counted once. */
export async function countNew(
  septima: Septima,
  asks: readonly ListAsk[],
  campaignId: string,
  today: string,
): Promise<number> {
  const { of: fresh } = await sinceLast(septima, asks, campaignId);
  const counted = new Set<string>();
  for (const ask of asks) {
    if (!ask.sinceLast) continue;
    const items = await allItems(septima, ask.source);
    for (const { id } of newOf(ask, { items: () => items, fresh, audience: { today } }))
      counted.add(`${ask.source}\n${id}`);
  }
  return counted.size;
}
