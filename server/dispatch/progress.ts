/** How the newest sending of a campaign goes: asked, or told as it happens. */
import type { Septima } from "../septima";
import { countsOf, type Dispatch, dispatchFacts, whenWords } from "./dispatches";
import type { RecipientState } from "./recipient";

/** Why readers wait for another try, or were refused; and how many. */
export interface Reason {
  words: string;
  count: number;
}

/** How a sending goes just now. */
export interface Pace {
  /** Handed over in a second, over the last ten. */
  perSecond: number;
  waiting: Reason[];
  failed: Reason[];
  /** Which processes have readers in hand, and how many. */
  workers: { name: string; count: number }[];
}

export interface Progress {
  /** Milliseconds since 1970: how it was then. */
  now: number;
  dispatch: (Dispatch & { when: string }) | null;
  pace: Pace | null;
}

/** So many reasons are told apart. */
const MOST_REASONS = 12;
/** The last so many seconds say how fast it goes. */
const SECONDS = 10;
/** Why somebody waits or was refused, without what is their own: addresses are left out. Null for all others. */
const REASON = String.raw`case when state in ('pending', 'failed') then regexp_replace(trouble, '<?[^\s<>]+@[^\s<>]+>?', '…', 'g') end`;

/** How the newest sending of a campaign goes just now. All its recipients are passed once. */
export async function progressOf(septima: Septima, campaignId: string): Promise<Progress> {
  const [facts] = await dispatchFacts(septima, campaignId, 1);
  const now = septima.now();
  if (!facts) return { now, dispatch: null, pace: null };
  const rows = await septima.db.query<{
    state: RecipientState;
    words: string | null;
    count: number;
    recent: number;
  }>(
    `select state, ${REASON} as words, count(*)::int as count,
       (count(*) filter (where state = 'accepted' and changed_at > $2))::int as recent
     from recipients where dispatch_id = $1 group by 1, 2 order by 3 desc, 2`,
    [facts.id, new Date(now - SECONDS * 1000)],
  );
  const reasons = (of: RecipientState): Reason[] =>
    rows.flatMap(({ state, words, count }) => (state === of && words !== null ? [{ words, count }] : []));
  return {
    now,
    dispatch: { ...facts, counts: countsOf(rows), when: whenWords(facts) },
    pace: {
      perSecond: rows.reduce((sum, { recent }) => sum + recent, 0) / SECONDS,
      waiting: reasons("pending").slice(0, MOST_REASONS),
      failed: reasons("failed").slice(0, MOST_REASONS),
      workers: await septima.db.query<Pace["workers"][number]>(
        `select worker as name, count(*)::int as count from recipients
         where dispatch_id = $1 and state = 'handing' and worker is not null and leased_until > clock_timestamp()
         group by worker order by worker`,
        [facts.id],
      ),
    },
  };
}

/** So often it is told while something moves, and while nothing does, in milliseconds; at once when its state changes. */
const EVERY = { moving: 500, resting: 10_000 };
/** At most one part in so many of the time goes into finding out how it goes. */
const SHARE = 10;

/** Tells how it goes until it is closed; resolves once it was told for the first time. */
export async function followProgress(
  septima: Septima,
  campaignId: string,
  told: (progress: Progress) => void,
  closed: AbortSignal,
): Promise<void> {
  let wake: () => void = () => undefined;
  const rest = (milliseconds: number) =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, milliseconds);
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const tell = async () => {
    const begun = performance.now();
    const progress = await progressOf(septima, campaignId);
    if (!closed.aborted) told(progress);
    const state = progress.dispatch?.state;
    const moves = state === "gathering" || state === "sending";
    return Math.max(moves ? EVERY.moving : EVERY.resting, (performance.now() - begun) * SHARE);
  };
  const goOn = async (first: number) => {
    const deaf = septima.news.of("dispatches", "any", () => wake());
    closed.addEventListener("abort", () => wake());
    for (let pause = first; !closed.aborted; ) {
      await rest(pause);
      try {
        if (!closed.aborted) pause = await tell();
      } catch {
        // The database is away: whoever looks sees how old the last words are.
      }
    }
    deaf();
  };
  void goOn(await tell());
}
