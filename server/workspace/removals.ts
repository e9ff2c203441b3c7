/** Removing what designs and selections may use: it says by what it is used, and can be taken back. */

import { audienceChanged } from "../audience/answers";
import { refuseSameName } from "../audience/groups";
import { usesOfPicture } from "../pictures/uses";
import { Refusal, type Septima } from "../septima";

const TABLES = { source: "sources", segment: "segments", list: "lists", picture: "pictures" } as const;
export type Removable = keyof typeof TABLES;

/** What uses something: campaigns, and segments whose rule asks for another, by name. */
export interface Uses {
  campaigns: string[];
  segments: string[];
}

/** By what a source, a segment, a list or a picture is used. Ids are long enough to be sought as they are. */
export async function usesOf(septima: Septima, kind: Removable, id: string): Promise<Uses> {
  if (kind === "picture") {
    const uses = await usesOfPicture(septima, id);
    return { campaigns: uses.map(({ name }) => name), segments: [] };
  }
  const sought = `%"${id}"%`;
  const campaigns = await septima.db.query<{ name: string }>(
    // What can still change comes first.
    `select name from campaigns c where deleted_at is null and (email::text like $1 or readers::text like $1)
     order by exists (select 1 from dispatches d where d.campaign_id = c.id and d.state <> 'cancelled'), name`,
    [sought],
  );
  const segments =
    kind === "segment" || kind === "list"
      ? await septima.db.query<{ name: string }>(
          "select name from segments where deleted_at is null and id <> $2 and rule::text like $1 order by name",
          [sought, id],
        )
      : [];
  return { campaigns: campaigns.map(({ name }) => name), segments: segments.map(({ name }) => name) };
}

/**
 * Puts something out of sight, or brings it back.
 * @throws Refusal (404) when there is none
 */
export async function setRemoved(
  septima: Septima,
  kind: Removable,
  id: string,
  removed: boolean,
): Promise<void> {
  if (kind === "list" && !removed) {
    const [list] = await septima.db.query<{ name: string }>("select name from lists where id = $1", [id]);
    if (list) await refuseSameName(septima.db, id, list.name);
  }
  const rows = await septima.db.query(
    `update ${TABLES[kind]} set deleted_at = $2 where id = $1 and (deleted_at is null) = $3 returning id`,
    [id, removed ? new Date(septima.now()) : null, removed],
  );
  if (rows.length === 0) throw new Refusal(`This ${kind} does not exist any more.`, 404);
  if (kind === "segment" || kind === "list") audienceChanged(septima);
}
