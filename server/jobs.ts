import PgBoss from "pg-boss";
import type { Database } from "./db/database";

type Handler = (data: Record<string, string>) => Promise<void>;

/** Work that is done later, and survives a restart. */
export interface Jobs {
  /** Does a kind of job from now on; so many of them side by side. */
  work(kind: string, handler: Handler, sideBySide?: number): Promise<void>;
  /** Asks for a job, at once or not before a moment (milliseconds since 1970). */
  ask(kind: string, data: Record<string, string>, at?: number): Promise<void>;
  /** Repeats a job by a cron line, in UTC. */
  repeat(kind: string, cron: string): Promise<void>;
  stop(): Promise<void>;
}

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
  const queues = new Set<string>();
  const queue = async (kind: string) => {
    if (queues.has(kind)) return;
    await db.alone("jobs", () => boss.createQueue(kind));
    queues.add(kind);
  };
  return {
    async work(kind, handler, sideBySide = 1) {
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
      for (let worker = 0; worker < sideBySide; worker++)
        await boss.work<Record<string, string>>(kind, { pollingIntervalSeconds: 1 }, one);
    },
    async ask(kind, data, at) {
      await queue(kind);
      const id = await boss.send(kind, data, {
        startAfter: at === undefined ? undefined : new Date(at),
        expireInHours: 20,
      });
      if (id === null) throw new Error(`The job “${kind}” was not taken.`);
    },
    async repeat(kind, cron) {
      await queue(kind);
      await boss.schedule(kind, cron);
    },
    stop: () => boss.stop({ graceful: true, timeout: STOP_WAIT, wait: true }),
  };
}
