/** The work that goes on by itself: whatever is to be carried out, this process takes part in. */
import type { Septima } from "../septima";
import { carryOutDigests } from "./digests";
import { runDispatch } from "./run";
import { takeOver } from "./settling";
import { tellOfDigests } from "./telling";

/** So many dispatches are carried out side by side: a slow one holds no other up. */
const AT_ONCE = 6;
/** So long nothing is looked at, unless something is told, in milliseconds. */
const LOOK_AGAIN = 2000;
/** So long after an error the same dispatch is let be, in milliseconds. */
const LET_BE = 10_000;

export interface Dispatching {
  /** How many dispatches this process is carrying out. */
  readonly running: number;
  /** Ends once what is under way is settled; the process is to be stopping. */
  ended: Promise<void>;
}

/** Which dispatches there is something to do for: their moment has come, or somebody's turn; the oldest first. */
async function due(septima: Septima): Promise<string[]> {
  const rows = await septima.db.query<{ id: string }>(
    `select d.id from dispatches d join bookings b on b.id = d.booking_id
     where d.state in ('scheduled', 'gathering', 'sending') and case d.state
       when 'scheduled' then b.goes_at is null or b.goes_at <= $1
       when 'gathering' then true
       else exists (select 1 from recipients r where r.dispatch_id = d.id and r.state = 'pending'
           and (r.next_try is null or r.next_try <= $1))
         or not exists (select 1 from recipients r where r.dispatch_id = d.id and r.state in ('pending', 'handing')) end
     order by d.created_at, d.id`,
    [new Date(septima.now())],
  );
  return rows.map(({ id }) => id);
}

/** Carries out dispatches from now on, beside all other processes that do. */
export function startDispatching(septima: Septima, report: (error: unknown) => void): Dispatching {
  const running = new Map<string, Promise<void>>();
  const letBe = new Map<string, number>();
  let wake: () => void = () => undefined;
  let told = false;
  const tell = () => {
    told = true;
    wake();
  };
  const rest = () =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, told ? 0 : LOOK_AGAIN);
      told = false;
      wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  const run = async (id: string) => {
    try {
      await runDispatch(septima, id);
      letBe.delete(id);
    } catch (error) {
      letBe.set(id, Date.now() + LET_BE);
      report(error);
    }
  };
  const take = (id: string) => {
    const done = run(id).finally(() => {
      running.delete(id);
      tell();
    });
    running.set(id, done);
  };
  // Sources are asked and mails are sent: dispatches do not wait for that.
  let repeating: Promise<void> | null = null;
  const repeat = async () => {
    try {
      await carryOutDigests(septima);
      await tellOfDigests(septima);
    } catch (error) {
      report(error);
    } finally {
      repeating = null;
    }
  };
  const work = async () => {
    const deaf = septima.news.of("dispatches", "any", tell);
    septima.stopping.addEventListener("abort", tell);
    while (!septima.stopping.aborted) {
      try {
        await takeOver(septima);
        repeating ??= repeat();
        const free = (id: string) => !running.has(id) && (letBe.get(id) ?? 0) < Date.now();
        for (const id of (await due(septima)).filter(free)) if (running.size < AT_ONCE) take(id);
      } catch (error) {
        report(error);
      }
      await rest();
    }
    deaf();
    await Promise.all([repeating, ...running.values()]);
  };
  return {
    get running() {
      return running.size;
    },
    ended: work(),
  };
}
