/**
 * The embedded database in a thread of its own: it runs what the other side asks (`apart.ts`), one message for each
 * statement, and one transaction at a time.
 */
import { parentPort, workerData } from "node:worker_threads";
import type { Queries } from "./database";
import { openEmbedded } from "./embedded";

export type Asked =
  | { id: number; do: "query"; sql: string; params: readonly unknown[]; tx: number | null }
  | { id: number; do: "script"; sql: string; tx: number | null }
  | { id: number; do: "begin" | "commit" | "rollback"; tx: number }
  | { id: number; do: "hear"; channel: string }
  | { id: number; do: "close" };
export type Answered = { id: number; rows: unknown[] } | { id: number; error: Fault };
export interface Heard {
  channel: string;
  words: string | null;
}
/** An error of the database, as it passes between two threads. */
export interface Fault {
  message: string;
  /** Of PostgreSQL (SQLSTATE), such as `23505`. */
  code?: string;
  detail?: string;
  constraint?: string;
}

interface Open {
  on: Queries & { script(sql: string): Promise<void> };
  /** Ends it well, or by throwing, which rolls it back. */
  end(well: boolean): void;
  ended: Promise<void>;
}

const ROLLED_BACK = new Error("rolled back");
const db = await openEmbedded((workerData as { folder: string }).folder);
const open = new Map<number, Open>();
const port = parentPort!;

function faultOf(error: unknown): Fault {
  const { message, code, detail, constraint } = error as Fault;
  return { message, code, detail, constraint };
}

/** Begins a transaction once those before it have ended. */
function begin(tx: number): Promise<void> {
  return new Promise((begun, failed) => {
    const ended = db.transaction(async (on) => {
      await new Promise<void>((resolve, reject) => {
        const end = (well: boolean) => (well ? resolve() : reject(ROLLED_BACK));
        open.set(tx, { on, end, ended });
        begun();
      });
    });
    ended.catch(failed);
  });
}

async function end(tx: number, well: boolean): Promise<void> {
  const one = open.get(tx);
  if (!one) throw new Error("there is no such transaction");
  open.delete(tx);
  one.end(well);
  await one.ended.catch((error) => {
    if (error !== ROLLED_BACK) throw error;
  });
}

async function answer(asked: Asked): Promise<unknown[]> {
  switch (asked.do) {
    case "query":
    case "script": {
      const on = asked.tx === null ? db : open.get(asked.tx)?.on;
      if (!on) throw new Error("there is no such transaction");
      if (asked.do === "query") return on.query(asked.sql, asked.params);
      await on.script(asked.sql);
      return [];
    }
    case "begin":
      await begin(asked.tx);
      return [];
    case "commit":
    case "rollback":
      await end(asked.tx, asked.do === "commit");
      return [];
    case "hear": {
      const { channel } = asked;
      await db.hear(channel, (words) => port.postMessage({ channel, words } satisfies Heard));
      return [];
    }
    case "close":
      await db.close();
      return [];
  }
}

port.on("message", (asked: Asked) => {
  answer(asked).then(
    (rows) => port.postMessage({ id: asked.id, rows } satisfies Answered),
    (error) => port.postMessage({ id: asked.id, error: faultOf(error) } satisfies Answered),
  );
});
port.postMessage("ready");
