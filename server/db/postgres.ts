import pg from "pg";
import type { Database, Queries } from "./database";

pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, Number);

/** A PostgreSQL server by its address (`DATABASE_URL`). */
export function openServer(url: string): Database {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  // A connection that lies idle may be ended by the server; the pool opens another. Statements fail by themselves.
  pool.on("error", () => undefined);
  const on = (client: pg.Pool | pg.PoolClient): Queries & { script(sql: string): Promise<void> } => ({
    async query<T>(sql: string, params: readonly unknown[] = []) {
      return (await client.query(sql, [...params])).rows as T[];
    },
    async script(sql) {
      await client.query(sql);
    },
  });
  const ear = new Ear(url);
  return {
    ...on(pool),
    async transaction(work) {
      const client = await pool.connect();
      let lost: Error | undefined;
      // A server that ends the connection in the middle ends this work, and nothing else.
      const lose = (error: Error) => {
        lost = error;
      };
      client.on("error", lose);
      try {
        await client.query("begin");
        const result = await work(on(client));
        await client.query("commit");
        return result;
      } catch (error) {
        // What cannot be rolled back any more was not committed.
        if (!lost) await client.query("rollback").catch(lose);
        throw error;
      } finally {
        client.removeListener("error", lose);
        client.release(lost);
      }
    },
    async alone(name, work) {
      // On a connection of its own: it is given free when that ends, however it does.
      const client = await pool.connect();
      const ended = () => undefined;
      client.on("error", ended);
      try {
        await client.query("select pg_advisory_lock(hashtext($1))", [name]);
        return await work();
      } finally {
        client.removeListener("error", ended);
        client.release(true);
      }
    },
    hear: (channel, told) => ear.hear(channel, told),
    async close() {
      await ear.close();
      await pool.end();
    },
  };
}

/** So long after a lost connection another one is tried, in milliseconds. */
const AGAIN = 1000;

/** A connection of its own that hears what is told; when it is lost, another takes its place. */
class Ear {
  private readonly told = new Map<string, ((words: string | null) => void)[]>();
  private client: pg.Client | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private ended = false;

  constructor(private readonly url: string) {}

  async hear(channel: string, told: (words: string | null) => void): Promise<void> {
    const known = this.told.get(channel);
    if (known) {
      known.push(told);
      return;
    }
    this.told.set(channel, [told]);
    if (this.client) await listen(this.client, channel);
    else await this.open();
  }

  private async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    this.client = client;
    const lost = () => {
      if (this.client !== client) return;
      this.client = null;
      client.end().catch(() => undefined);
      if (!this.ended) this.timer = setTimeout(() => void this.again(), AGAIN);
    };
    client.on("error", lost);
    client.on("end", lost);
    client.on("notification", ({ channel, payload }) => {
      for (const told of this.told.get(channel) ?? []) told(payload ?? "");
    });
    try {
      await client.connect();
      for (const channel of this.told.keys()) await listen(client, channel);
    } catch (error) {
      lost();
      throw error;
    }
  }

  private async again(): Promise<void> {
    try {
      await this.open();
    } catch {
      // The server is away: it is tried again.
      return;
    }
    for (const all of this.told.values()) for (const told of all) told(null);
  }

  async close(): Promise<void> {
    this.ended = true;
    clearTimeout(this.timer);
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}

const listen = (client: pg.Client, channel: string) => client.query(`listen ${pg.escapeIdentifier(channel)}`);
