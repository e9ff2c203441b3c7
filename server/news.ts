/** What happens to designs and dispatches, told at once to whoever looks at them: in this process, or in another on the same data. */
import { type Database, type Queries, tell } from "./db/database";

/** What is heard of, each under the name of its channel; of a dispatch a trigger tells. */
const CHANNELS = ["designs", "dispatches"] as const;
type Told = (typeof CHANNELS)[number];

/** Hears of designs and dispatches. */
export interface News {
  /** Calls `told` whenever something happens to one of them, or to any of its kind. Returns how to stop. */
  of(what: Told, id: string | "any", told: () => void): () => void;
}

/** Begins to hear what is told from now on. */
export async function openNews(db: Database): Promise<News> {
  const hearers = new Map<string, Set<() => void>>();
  const key = (what: Told, id: string) => `${what} ${id}`;
  const tellAll = (of: string) => {
    for (const told of [...(hearers.get(of) ?? [])]) told();
  };
  for (const what of CHANNELS)
    await db.hear(what, (id) => {
      // What was missed may have been about any of them.
      if (id === null) for (const of of [...hearers.keys()]) if (of.startsWith(`${what} `)) tellAll(of);
      if (id === null) return;
      tellAll(key(what, id));
      tellAll(key(what, "any"));
    });
  return {
    of(what, id, told) {
      const one = key(what, id);
      const all = hearers.get(one) ?? new Set();
      hearers.set(one, all.add(told));
      return () => {
        all.delete(told);
        if (all.size === 0 && hearers.get(one) === all) hearers.delete(one);
      };
    },
  };
}

/** As `tellOf`, of each row's `campaign_id`, within a statement that has other work. */
export const TELL_OF = `pg_notify('${CHANNELS[0]}', campaign_id)`;

/** Says that something happened to a campaign's design: it was saved, or a window opened or closed. */
export const tellOf = (on: Queries, campaignId: string): Promise<void> => tell(on, CHANNELS[0], campaignId);
