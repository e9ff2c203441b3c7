/** How many are on each list and in each segment, day by day. */
import { groupKey, STANDING_GROUPS } from "~/core/audience";
import type { Septima } from "../septima";
import { audienceContext, countReaders, listSizes, lists, segments } from "./groups";
import { countSelection, type SelectionCount } from "./selection";

export type GroupKind = "list" | "segment" | "standing";

/** How many there are, at a moment. */
export interface AudienceCounts {
  everyone: SelectionCount;
  /**
   * By `groupKey`: of a list how many are on it, of others how many may be written to, and of those who cannot be
   * written to how many there are; null of a segment that cannot be answered.
   */
  groups: Record<string, number | null>;
}

const KNOWN = "audience counts";

/** What was counted last, however long ago that was; null when nothing was counted yet. */
export function knownCounts({ cache }: Septima): AudienceCounts | null {
  return (cache.get(KNOWN) as AudienceCounts | undefined) ?? null;
}

/** Counts everybody and every group. It takes a while with a large audience. */
export async function audienceCounts(septima: Septima): Promise<AudienceCounts> {
  const [everyone, groups] = await Promise.all([
    countSelection(septima, { include: [{ kind: "everyone", id: "" }], exclude: [] }),
    groupCounts(septima),
  ]);
  const counts = { everyone, groups: Object.fromEntries(groups.map((it) => [groupKey(it), it.count])) };
  septima.cache.set(KNOWN, counts);
  return counts;
}

interface GroupCount {
  kind: GroupKind;
  id: string;
  count: number | null;
}

async function groupCounts(septima: Septima): Promise<GroupCount[]> {
  const [allLists, allSegments] = await Promise.all([lists(septima), segments(septima)]);
  const standing = STANDING_GROUPS.filter(({ status }) => status === undefined);
  const [counts, sizes, statuses] = await Promise.all([
    countReaders(septima, [
      ...allSegments.map(({ rule }) => rule),
      ...standing.map(({ id }) => ({ kind: "standing" as const, group: id, in: true })),
    ]),
    listSizes(septima),
    septima.db.query<{ status: string; count: number }>(
      "select status, count(*)::int as count from contacts where status <> 'subscribed' group by status",
    ),
  ]);
  const having = new Map(statuses.map(({ status, count }) => [status, count]));
  return [
    ...allLists.map(({ id }) => ({ kind: "list" as const, id, count: sizes.get(id) ?? 0 })),
    ...allSegments.map(({ id }, index) => ({ kind: "segment" as const, id, count: counts[index] })),
    ...STANDING_GROUPS.map((group) => ({
      kind: "standing" as const,
      id: group.id,
      count: group.status
        ? (having.get(group.status) ?? 0)
        : counts[allSegments.length + standing.indexOf(group)],
    })),
  ];
}

/** Writes down today's sizes; asked more than once a day, the last counts. */
export async function recordSizes(septima: Septima): Promise<void> {
  const { today } = await audienceContext(septima);
  const rows = (await groupCounts(septima)).filter(({ count }) => count !== null);
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
