/** How many are on each list and in each segment, day by day. */
import { STANDING_GROUPS } from "~/core/audience";
import type { Septima } from "../septima";
import { audienceContext, countReaders, lists, segments } from "./groups";

export type GroupKind = "list" | "segment" | "standing";
/** How many of each group may be written to; null of a segment that cannot be answered. */
export interface GroupCounts {
  lists: { id: string; name: string; about: string; topic: boolean; count: number }[];
  segments: { id: string; name: string; count: number | null }[];
  standing: { id: string; name: string; about: string; count: number }[];
}

/** All groups with how many are in them. Of those who cannot be written to, how many there are. */
export async function groupCounts(septima: Septima): Promise<GroupCounts> {
  const [allLists, allSegments] = [await lists(septima), await segments(septima)];
  const standing = STANDING_GROUPS.filter(({ status }) => status === undefined);
  const counts = await countReaders(septima, [
    ...allSegments.map(({ rule }) => rule),
    ...standing.map(({ id }) => ({ kind: "standing" as const, group: id, in: true })),
  ]);
  const statuses = new Map(
    (
      await septima.db.query<{ status: string; count: number }>(
        "select status, count(*)::int as count from contacts where status <> 'subscribed' group by status",
      )
    ).map(({ status, count }) => [status, count]),
  );
  const counted = new Map(standing.map(({ id }, index) => [id, counts[allSegments.length + index] ?? 0]));
  return {
    lists: allLists,
    segments: allSegments.map(({ id, name }, index) => ({ id, name, count: counts[index] })),
    standing: STANDING_GROUPS.map(({ id, name, about, status }) => ({
      id,
      name,
      about,
      count: (status ? statuses.get(status) : counted.get(id)) ?? 0,
    })),
  };
}

/** Writes down today's sizes; asked more than once a day, the last counts. */
export async function recordSizes(septima: Septima): Promise<void> {
  const { today } = await audienceContext(septima);
  const counts = await groupCounts(septima);
  const rows = [
    ...counts.lists.map(({ id, count }) => ({ kind: "list", id, count })),
    ...counts.segments.map(({ id, count }) => ({ kind: "segment", id, count })),
    ...counts.standing.map(({ id, count }) => ({ kind: "standing", id, count })),
  ].filter(({ count }) => count !== null);
  await septima.db.query(
    `insert into group_sizes (kind, group_id, day, size)
     select kind, id, $2::date, count from jsonb_to_recordset($1::jsonb) as r(kind text, id text, count integer)
     on conflict (kind, group_id, day) do update set size = excluded.size`,
    [JSON.stringify(rows), today],
  );
}

/** So far back sizes are shown, in days. */
const SHOWN = 400;

/** A group's sizes over time, the oldest first; days without one were not recorded. */
export async function sizesOf(
  septima: Septima,
  kind: GroupKind,
  id: string,
): Promise<{ day: string; size: number }[]> {
  return septima.db
    .query<{ day: string; size: number }>(
      `select to_char(day, 'YYYY-MM-DD') as day, size from group_sizes
     where kind = $1 and group_id = $2 order by day desc limit ${SHOWN}`,
      [kind, id],
    )
    .then((rows) => rows.reverse());
}
