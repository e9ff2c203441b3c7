/** Counting what readers do: many at a time, since after a sending they come in a burst. */

import { behaviourChanged } from "../audience/answers";
import { addEvents, type Event } from "../audience/history";
import type { Septima } from "../septima";
import type { Done } from "./links";

/** What came in, and how. */
export interface Visit extends Done {
  /** Milliseconds since 1970. */
  at: number;
  /** How whoever came calls themselves. */
  agent: string;
  /** Whether only the head was asked for, as nobody does who reads. */
  headOnly: boolean;
}

interface Waiting extends Visit {
  byMachine: boolean;
}

/** So long what came waits for what comes with it, in milliseconds, and so much may wait. */
const ROUND = { ms: 1500, most: 2000 };
/** Whoever presses so many different links within a round presses all there are. */
const TOO_MANY = 3;
/** So often a round that could not be written down is tried again. */
const TRIES = 20;

/** What programs call themselves that fetch on their own. */
const PROGRAM =
  /bot\b|crawl|spider|scan|preview|fetch|monitor|headless|curl|wget|python|java\/|http-?client|okhttp/i;

/**
 * Takes what readers do and writes it down in rounds. Whoever looks at messages ahead of people is told apart as well as can
 * be: by what it calls itself, by asking for the head alone, by saying nothing at all, or by pressing one link after the other.
 */
export class Counting {
  private waiting: Waiting[] = [];
  private timer: NodeJS.Timeout | null = null;
  private writing: Promise<void> = Promise.resolve();

  constructor(private readonly septima: Septima) {}

  add(visit: Visit): void {
    const byMachine = visit.headOnly || visit.agent.trim() === "" || PROGRAM.test(visit.agent);
    this.waiting.push({ ...visit, byMachine });
    if (this.waiting.length >= ROUND.most) this.flush();
    else this.timer ??= setTimeout(() => this.flush(), ROUND.ms);
  }

  /** Writes down what has come. */
  flush(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const round = this.waiting.splice(0);
    if (round.length > 0) this.writing = this.writing.then(() => this.write(round));
    return this.writing;
  }

  private async write(round: readonly Waiting[]): Promise<void> {
    for (let tries = 1; ; tries++) {
      try {
        await writeDown(this.septima, markHasty(round));
        behaviourChanged(this.septima);
        return;
      } catch (error) {
        if (tries >= TRIES || this.septima.stopping.aborted) {
          process.stderr.write(
            `${round.length} clicks and openings were lost: ${(error as Error).message}\n`,
          );
          return;
        }
        await new Promise((resolve) => setTimeout(resolve, Math.min(100 * 2 ** tries, 5000)));
      }
    }
  }
}

/** Whoever pressed too many different links in one round is a program, in all it did. */
function markHasty(round: readonly Waiting[]): Waiting[] {
  const pressed = new Map<string, Set<string>>();
  const whose = ({ dispatch, contact }: Done) => `${dispatch} ${contact}`;
  for (const one of round) {
    if (!one.place) continue;
    const own = pressed.get(whose(one)) ?? new Set();
    pressed.set(whose(one), own.add(`${one.place.block} ${one.place.address}`));
  }
  return round.map((one) => ({
    ...one,
    byMachine: one.byMachine || (pressed.get(whose(one))?.size ?? 0) >= TOO_MANY,
  }));
}

async function writeDown(septima: Septima, round: readonly Waiting[]): Promise<void> {
  const rows = await septima.db.query<{
    dispatch: string;
    contact: number;
    campaign: string;
    edition: number | null;
  }>(
    `select r.dispatch_id as dispatch, r.contact_id as contact, d.campaign_id as campaign, r.edition
     from (select distinct dispatch, contact from jsonb_to_recordset($1::jsonb) as it(dispatch text, contact integer)) it
     join recipients r on r.dispatch_id = it.dispatch and r.contact_id = it.contact
     join dispatches d on d.id = r.dispatch_id`,
    [JSON.stringify(round.map(({ dispatch, contact }) => ({ dispatch, contact })))],
  );
  const known = new Map(rows.map((row) => [`${row.dispatch} ${row.contact}`, row]));
  const events = round.flatMap((one): Event[] => {
    const row = known.get(`${one.dispatch} ${one.contact}`);
    return row
      ? [
          {
            what: one.place ? "clicked" : "opened",
            contact: one.contact,
            at: new Date(one.at),
            campaign: row.campaign,
            edition: row.edition,
            byMachine: one.byMachine,
            ...(one.place && { place: one.place }),
          },
        ]
      : [];
  });
  await addEvents(septima.db, events);
}
