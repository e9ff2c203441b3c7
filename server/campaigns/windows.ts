/** The windows a design is open in: each is told at once of the others and of what they save. */
import { TELL_OF, tellOf } from "../news";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** What a window is told. */
export interface Standing {
  /** In how many other windows the design is open. */
  others: number;
  /** The newest revision. */
  revision: number;
}

/** A window that said nothing for so long is taken for closed, in milliseconds. */
const SILENT = 35_000;
/** So often an open one is written down anew. */
const SEEN_EVERY = 10_000;

async function standing(septima: Septima, campaignId: string, window: string): Promise<Standing> {
  const [row] = await septima.db.query<Standing>(
    `select c.revision, (select count(*) from windows w where w.campaign_id = c.id and w.id <> $2) as others
     from campaigns c where c.id = $1 and c.deleted_at is null`,
    [campaignId, window],
  );
  if (!row) throw new Refusal("This campaign does not exist, or was deleted.", 404);
  return row;
}

/** Says that a design is open in a window. */
export async function seenIn(septima: Septima, campaignId: string, window: string): Promise<Standing> {
  const now = septima.now();
  const changed = await septima.db.query<{ fresh: boolean }>(
    `with silent as (delete from windows where campaign_id = $1 and seen_at < $4 and id <> $2 returning false as fresh),
       seen as (insert into windows (campaign_id, id, seen_at) select id, $2, $3 from campaigns where id = $1
         on conflict (campaign_id, id) do update set seen_at = excluded.seen_at returning xmax = 0 as fresh)
     select fresh from seen where fresh union all select true from silent`,
    [campaignId, window, new Date(now), new Date(now - SILENT)],
  );
  if (changed.length > 0) await tellOf(septima.db, campaignId);
  return standing(septima, campaignId, window);
}

/** Says that a window was closed. */
export async function goneFrom(septima: Septima, campaignId: string, window: string): Promise<void> {
  await septima.db.query(`delete from windows where campaign_id = $1 and id = $2 returning ${TELL_OF}`, [
    campaignId,
    window,
  ]);
}

/**
 * Tells a window how its design stands, now, whenever that becomes another, and from time to time, so that it knows that
 * it is still told; until `closed` is aborted.
 * @throws Refusal when there is no such campaign
 */
export async function follow(
  septima: Septima,
  campaignId: string,
  window: string,
  told: (standing: Standing) => void,
  closed: AbortSignal,
): Promise<void> {
  if (closed.aborted) return;
  let busy = false;
  let again = false;
  let last: Standing | null = null;
  const say = async () => {
    again = true;
    if (busy) return;
    busy = true;
    while (again && !closed.aborted) {
      again = false;
      // One that was deleted meanwhile tells nothing.
      const now = await standing(septima, campaignId, window).catch(() => null);
      if (!now || closed.aborted) continue;
      if (now.others !== last?.others || now.revision !== last.revision) told(now);
      last = now;
    }
    busy = false;
  };
  const stop = septima.news.of("designs", campaignId, () => void say());
  const timer = setInterval(() => {
    last = null;
    void seenIn(septima, campaignId, window).then(say, () => undefined);
  }, SEEN_EVERY);
  closed.addEventListener("abort", () => {
    stop();
    clearInterval(timer);
    void goneFrom(septima, campaignId, window).catch(() => undefined);
  });
  await seenIn(septima, campaignId, window);
  await say();
}
