import { Worker } from "node:worker_threads";
import type { Database, Queries } from "./database";
import type { Answered, Asked, Heard } from "./thread";

/** Leaves out what the sender adds. */
type Question = Asked extends infer One ? (One extends { id: number } ? Omit<One, "id"> : never) : never;

const ENDED = () => new Error("The database has ended. Start Septima again.");

/**
 * The embedded PostgreSQL in a thread of its own, so that whatever it takes its time for, the web is answered meanwhile.
 * @param file what the thread runs: `thread.ts`, or what the build made of it
 * @param folder of its data
 * @throws Error when it cannot be opened
 */
export async function openApart(file: string | URL, folder: string): Promise<Database> {
  const worker = new Worker(file, { workerData: { folder } });
  const waiting = new Map<number, { resolve(rows: unknown[]): void; reject(error: Error): void }>();
  const hearers: { channel: string; told(words: string | null): void }[] = [];
  let ended: Error | null = null;
  let last = 0;
  let lastTransaction = 0;
  const end = (error: Error) => {
    ended ??= error;
    for (const { reject } of waiting.values()) reject(ended);
    waiting.clear();
  };
  await new Promise<void>((resolve, reject) => {
    worker.once("message", () => resolve());
    worker.once("error", reject);
    worker.once("exit", (code) => reject(new Error(`The database ended with ${code} before it was open.`)));
  });
  worker.on("message", (answer: Answered | Heard) => {
    if ("channel" in answer) {
      for (const { channel, told } of hearers) if (channel === answer.channel) told(answer.words);
      return;
    }
    const one = waiting.get(answer.id);
    waiting.delete(answer.id);
    if ("rows" in answer) one?.resolve(answer.rows);
    else one?.reject(Object.assign(new Error(answer.error.message), answer.error));
  });
  worker.on("error", end);
  worker.on("exit", () => end(ENDED()));

  const ask = (question: Question): Promise<unknown[]> =>
    new Promise((resolve, reject) => {
      if (ended) {
        reject(ended);
        return;
      }
      const id = ++last;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ ...question, id });
    });
  const on = (tx: number | null): Queries & { script(sql: string): Promise<void> } => ({
    query: async <T>(sql: string, params: readonly unknown[] = []) =>
      (await ask({ do: "query", sql, params, tx })) as T[],
    async script(sql) {
      await ask({ do: "script", sql, tx });
    },
  });
  return {
    ...on(null),
    async transaction(work) {
      const tx = ++lastTransaction;
      await ask({ do: "begin", tx });
      try {
        const result = await work(on(tx));
        await ask({ do: "commit", tx });
        return result;
      } catch (error) {
        // What failed while it was ended is rolled back already.
        await ask({ do: "rollback", tx }).catch(() => undefined);
        throw error;
      }
    },
    // The folder is this process's own.
    alone: (_name, work) => work(),
    async hear(channel, told) {
      const first = !hearers.some((one) => one.channel === channel);
      hearers.push({ channel, told });
      if (first) await ask({ do: "hear", channel });
    },
    async close() {
      await ask({ do: "close" });
      end(ENDED());
      await worker.terminate();
    },
  };
}
