import PgBoss from "pg-boss";
import { type Database, tell } from "./db/database";

type Handler = (data: Record<string, string>) => Promise<void>;

/** Work that is done later, and survives a restart. */
export interface Jobs {
  /** Does a kind of job from now on, one after the other. */
  work(kind: string, handler: Handler): Promise<void>;
  /** Asks for a job, at once or not before a moment (milliseconds since 1970). */
  ask(kind: string, data: Record<string, string>, at?: number): Promise<void>;
  /** Repeats a job by a cron line, in UTC. */
  repeat(kind: string, cron: string): Promise<void>;
  stop(): Promise<void>;
}

/** So often it is looked whether a job's time has come, in seconds; what is asked for at once is told of. */
const LOOK_AGAIN = 10;
/** So many of a kind are taken at a time, and done one after the other. */
const AT_ONCE = 20;
/** Where it is told which kind of job somebody asks for. */
const ASKED = "jobs_asked";

/** So long the jobs that are under way are waited for when the program stops, in milliseconds. */
const STOP_WAIT = 30_000;

/** Jobs in pg-boss on our own database. */
export async function startJobs(db: Database, report: (error: unknown) => void): Promise<Jobs> {
  const boss = new PgBoss({
    db: {
      async executeSql(text: string, values: unknown[]) {
        if (!values || values.length === 0) {
          if (/;\s*\S/.test(text.trim())) {
            await db.script(text);
            return { rows: [], rowCount: 0 };
          }
        }
        const rows = await db.query(text, values ?? []);
        return { rows, rowCount: rows.length };
      },
    },
    supervise: true,
  });
  boss.on("error", report);
  // Whoever is first makes its tables.
  await db.alone("jobs", () => boss.start());
  const workers = new Map<string, string>();
  await db.hear(ASKED, (asked) => {
    // What was missed may have been any of them.
    for (const [kind, id] of workers) if (asked === null || asked === kind) boss.notifyWorker(id);
  });
  const queues = new Set<string>();
  const queue = async (kind: string) => {
    if (queues.has(kind)) return;
    await db.alone("jobs", () => boss.createQueue(kind));
    queues.add(kind);
  };
  return {
    async work(kind, handler) {
      await queue(kind);
      const one = async (jobs: { data?: Record<string, string> }[]) => {
        for (const job of jobs) {
          try {
            await handler(job.data ?? {});
          } catch (error) {
            report(error);
            throw error;
          }
        }
      };
      const options = { pollingIntervalSeconds: LOOK_AGAIN, batchSize: AT_ONCE };
      workers.set(kind, await boss.work<Record<string, string>>(kind, options, one));
    },
    async ask(kind, data, at) {
      await queue(kind);
      const id = await boss.send(kind, data, {
        startAfter: at === undefined ? undefined : new Date(at),
        expireInHours: 20,
      });
      if (id === null) throw new Error(`The job “${kind}” was not taken.`);
      if (at === undefined) await tell(db, ASKED, kind);
    },
    async repeat(kind, cron) {
      await queue(kind);
      await boss.schedule(kind, cron);
    },
    stop: () => boss.stop({ graceful: true, timeout: STOP_WAIT, wait: true }),
  };
}
