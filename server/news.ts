/** What happens to designs, told at once to whoever looks at them: in this process, or in another on the same data. */
import { type Database, type Queries, tell } from "./db/database";

const CHANNEL = "designs";

/** Hears of designs. */
export interface News {
  /** Calls `told` whenever something happens to a campaign's design. Returns how to stop. */
  of(campaignId: string, told: () => void): () => void;
}

/** Begins to hear what is told from now on. */
export async function openNews(db: Database): Promise<News> {
  const hearers = new Map<string, Set<() => void>>();
  await db.hear(CHANNEL, (campaignId) => {
    // What was missed may have been about any of them.
    const about = campaignId === null ? [...hearers.values()] : [hearers.get(campaignId) ?? []];
    for (const all of about) for (const told of [...all]) told();
  });
  return {
    of(campaignId, told) {
      const all = hearers.get(campaignId) ?? new Set();
      hearers.set(campaignId, all.add(told));
      return () => {
        all.delete(told);
        if (all.size === 0 && hearers.get(campaignId) === all) hearers.delete(campaignId);
      };
    },
  };
}

/** As `tellOf`, of each row's `campaign_id`, within a statement that has other work. */
export const TELL_OF = `pg_notify('${CHANNEL}', campaign_id)`;

/** Says that something happened to a campaign's design: it was saved, or a window opened or closed. */
export const tellOf = (on: Queries, campaignId: string): Promise<void> => tell(on, CHANNEL, campaignId);
